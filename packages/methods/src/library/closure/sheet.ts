import type { MethodSheet, Step } from '@clear-mark/core';
import { atMost, care, criteriaOf, step } from '../../build.ts';
import { BLADES, CABLE, DEFER, GLASS } from '../../common/cautions.ts';
import { commonPractice, house } from '../../sources.ts';
import { method } from '../method.ts';

interface CableKind {
  readonly name: string;
  readonly title: string;
  readonly align: string;
  readonly hold: readonly [name: string, label: string, faults: string, critical?: 'critical'][];
  readonly how: string;
  readonly opening?: string;
  /** Whether a member is cut and held, so that its length can be short. */
  readonly held: boolean;
}

/** The five kinds of cable, and how each one's strength member is held in a splice closure. */
const CABLES: readonly CableKind[] = [
  {
    name: 'closure-central',
    title: 'Closure: cable with a large central strength member',
    align: 'the bottom slot of the long L-bracket',
    how: 'Extension on the long L-bracket: screw and nut, again at the bottom slot; length set, nuts tight. Member marked at the extension’s end, cut; hose clamp loose on the sheath; lug; bracket on, lug in line with the extension; bolt through extension into lug, tight; hose clamp tight.',
    held: true,
    hold: [
      ['extension-first', 'Extension first, two screws and nuts, length set', 'bracket_late screws_missing'],
      ['lug', 'Lug in line, bolt through extension into lug, tight', 'lug_missing', 'critical'],
      ['clamp-last', 'Hose clamp tightened last', 'clamp_early clamp_misplaced'],
    ],
  },
  {
    name: 'closure-armored',
    title: 'Closure: armored cable with a large central member',
    align: 'the bottom slot',
    how: 'Extension by one screw and nut, set, tight. Member marked at the extension’s end, cut. Shield connector: base below the sheath, top, nut on; hose clamp loose; lug; stud through the bracket slot; bolt into lug; nut on stud; hose clamp tight.',
    opening: 'By the shield connector’s own instructions.',
    held: true,
    hold: [
      ['one-screw', 'Extension by one screw and nut, set, tight', 'screws_missing'],
      [
        'shield-bonded',
        'Shield connector: base below the sheath, top, nut on: bonded',
        'shield_not_bonded',
        'critical',
      ],
      ['stud', 'Lug on, stud through the slot, bolt and nut', 'lug_missing nut_loose'],
      ['clamp', 'Hose clamp tightened last', 'clamp_early clamp_misplaced'],
    ],
  },
  {
    name: 'closure-embedded',
    title: 'Closure: cable with embedded members',
    align: 'the middle of the bracket',
    how: 'One set cut close at the opening; the other marked at the bracket’s end, cut. Cap stud in, nut loose; members under the cap; nut tight; hose clamp.',
    held: true,
    hold: [
      ['one-flush', 'One set cut close at the opening', 'wrong_set_trimmed'],
      ['other-held', 'Other set under the cap, nut tight', 'member_not_held nut_loose', 'critical'],
      ['clamp', 'Hose clamp in its place', 'clamp_misplaced'],
    ],
  },
  {
    name: 'closure-roddable',
    title: 'Closure: roddable sub-units',
    align: 'the middle of the bracket',
    how: 'Opened by the company’s practice. No member is cut or held. Hose clamp.',
    opening: 'By the company’s practice.',
    held: false,
    hold: [
      ['own-practice', 'Opened by the company’s practice, sub-units whole', 'subunit_crushed', 'critical'],
      ['clamp', 'Hose clamp in its place', 'clamp_misplaced'],
    ],
  },
  {
    name: 'closure-unitube',
    title: 'Closure: single central tube',
    align: 'the bottom slot',
    how: 'Members marked at the bracket’s end, cut; cap stud in, nut loose; members under the cap; nut tight; hose clamp.',
    held: true,
    hold: [
      ['both-in', 'Members under the cap', 'member_not_held', 'critical'],
      ['nut', 'Cap nut tight', 'nut_loose'],
      ['clamp', 'Hose clamp in its place', 'clamp_misplaced'],
    ],
  },
];

function closure(kind: CableKind): MethodSheet {
  const c = criteriaOf(kind.name);
  const source = commonPractice('as this kind of cable is held in a closure');
  const holding: Step = step(
    'hold',
    kind.held ? 'Strength member held' : 'Cable clamped',
    'strip',
    'jacket',
    kind.how,
    kind.hold.map(([name, label, faults, critical]) =>
      c.check(name, label, 5, source, faults, { critical: critical === 'critical' }),
    ),
    [],
    kind.name.replace('closure', 'bracket'),
  );
  const pull = c.check(
    'holds',
    'Cable does not move under the pull of the hand',
    4,
    house('the members take the pull'),
    'cable_moves member_short',
  );
  return method({
    name: kind.name,
    title: kind.title,
    summary: `The sheath opening is aligned with ${kind.align}; ${kind.held ? 'the strength member is cut to its mark and held' : 'no member is cut or held'}.`,
    pieceKind: 'cord',
    things: ['bench'],
    cautions: [GLASS, CABLE, BLADES, DEFER],
    steps: [
      step(
        'ready',
        'Protection and knife',
        'strip',
        'bench',
        'Glasses on, knife cuts away from the hand, slit grommet on the sheath.',
        [
          c.check(
            'glasses',
            'Safety glasses on',
            3,
            commonPractice('glasses from the first cut on'),
            'no_glasses',
            { stop: true },
          ),
          c.check(
            'gloves',
            'PPE and sheath knife',
            2,
            house('cut-resistant gloves when opening sheath or armour; knife away from the hand'),
            'no_gloves knife_to_hand',
            { sampled: true },
          ),
          c.check(
            'grommet',
            'Slit grommet on the sheath',
            2,
            commonPractice('slit grommet on the sheath'),
            'grommet_missing',
          ),
        ],
      ),
      step(
        'open',
        'Sheath opened',
        'strip',
        'jacket',
        `${kind.opening ?? 'Opening length by the closure’s table, mid-sheath or butt.'} Opening aligned with ${kind.align}.`,
        [
          c.check(
            'opening-length',
            'Opening length as it should be',
            4,
            commonPractice('by the closure’s table'),
            'opening_wrong',
          ),
          c.check('tube-whole', 'No tube nicked', 5, house('tubes stay whole'), 'tube_nicked', {
            critical: true,
          }),
          c.check('aligned', `Opening aligned with ${kind.align}`, 4, source, 'opening_misaligned'),
        ],
        [care('The strength member is under spring tension; a bonded shield can carry a fault current.')],
      ),
      holding,
      step(
        'check',
        'Held to the pull of the hand',
        'strip',
        'jacket',
        kind.held
          ? 'Member not short of its mark, cap nut and clamp where they belong.'
          : 'Clamp where it belongs.',
        kind.held
          ? [
              c.measure(
                'member-gap',
                'Strength-member length: short of its mark',
                3,
                'mm',
                atMost('2', house('2 mm at most'), '0'),
                house('by eye and rule'),
                {
                  hint: 'A member cut too short is held by its tip only.',
                },
              ),
              pull,
            ]
          : [pull],
      ),
    ],
  });
}

export const CLOSURE: readonly MethodSheet[] = CABLES.map(closure);
