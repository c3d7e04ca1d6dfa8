import type { MethodSheet, Step } from '@clear-mark/core';
import { atMost, care, criteriaOf, step } from '../../build.ts';
import { BLADES, CABLE, DEFER, GLASS } from '../../common/cautions.ts';
import { commonPractice, house } from '../../sources.ts';
import { method } from '../method.ts';

interface CableKind {
  readonly name: string;
  readonly title: string;
  readonly align: string;
  readonly hold: readonly [name: string, label: string, faults: string][];
  readonly how: string;
}

/** The five kinds of cable, and how each one's strength member is held in a splice closure. */
const CABLES: readonly CableKind[] = [
  {
    name: 'closure-central',
    title: 'Closure: cable with a large central strength member',
    align: 'the bottom slot of the long L-bracket',
    how: 'Extension bracket on the long bracket with two screws, set to length. Mark the member where it ends, trim, clamp loose on the sheath, lug on, bracket to the cable, bolt through bracket and lug. Hose clamp tightened last.',
    hold: [
      [
        'extension-first',
        'Extension bracket first, two screws, set to length',
        'bracket_late screws_missing',
      ],
      ['lug', 'Lug on, bolt through bracket and lug', 'lug_missing'],
      ['clamp-last', 'Hose clamp tightened last', 'clamp_early clamp_misplaced'],
    ],
  },
  {
    name: 'closure-armored',
    title: 'Closure: armored cable with a large central member',
    align: 'the bottom slot',
    how: 'Opening by the shield connector’s own instructions. Its base goes in below the sheath, top and nut on (bonding), clamp on, lug on, stud through the slot, bolt, bracket nut, clamp.',
    hold: [
      ['shield-bonded', 'Shield connector in below the sheath, top and nut on: bonded', 'shield_not_bonded'],
      ['one-screw', 'Extension bracket with one screw', 'screws_missing'],
      ['stud', 'Lug on, stud through the slot, bolt and bracket nut', 'lug_missing nut_loose'],
    ],
  },
  {
    name: 'closure-embedded',
    title: 'Closure: cable with embedded members',
    align: 'the middle of the bracket',
    how: 'One set trimmed flush at the opening, the other marked at the bracket’s end, trimmed and held under the cap. Hose clamp.',
    hold: [
      ['one-flush', 'One set trimmed flush at the opening', 'wrong_set_trimmed'],
      ['other-held', 'Other set held under the cap', 'member_not_held nut_loose'],
      ['clamp', 'Hose clamp in its place', 'clamp_misplaced'],
    ],
  },
  {
    name: 'closure-roddable',
    title: 'Closure: roddable sub-units (fast-access cable)',
    align: 'the middle of the bracket',
    how: 'No member is held here: the cable’s own practice. Hose clamp.',
    hold: [
      ['own-practice', 'Sub-units handled by the cable’s own practice', 'subunit_crushed'],
      ['clamp', 'Hose clamp in its place', 'clamp_misplaced'],
    ],
  },
  {
    name: 'closure-unitube',
    title: 'Closure: single central tube (unitube)',
    align: 'the bottom slot',
    how: 'Both members marked at the bracket’s end and trimmed; cap stud in the bracket’s end with its nut loose, members in, then tighten. Hose clamp.',
    hold: [
      ['both-in', 'Both members under the cap before the nut is tightened', 'member_not_held'],
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
    'Strength member held',
    'strip',
    'jacket',
    kind.how,
    kind.hold.map(([name, label, faults]) =>
      c.check(name, label, 5, source, faults, { critical: name === 'shield-bonded' }),
    ),
    [],
    kind.name.replace('closure', 'bracket'),
  );
  return method({
    name: kind.name,
    title: kind.title,
    summary: `The sheath opening is aligned with ${kind.align}; the tube stays whole and the strength member is held.`,
    pieceKind: 'cord',
    things: ['bench'],
    cautions: [CABLE, GLASS, BLADES, DEFER],
    steps: [
      step(
        'ready',
        'Hands and blade',
        'strip',
        'bench',
        'Cut-resistant gloves and glasses on, knife cuts away from the hand, slit grommet on the sheath.',
        [
          c.check(
            'gloves',
            'Cut-resistant gloves and glasses on',
            3,
            commonPractice('gloves when opening sheath or armour'),
            'no_gloves no_glasses',
            { stop: true },
          ),
          c.check(
            'grommet',
            'Slit grommet on the sheath',
            2,
            commonPractice('the grommet goes on the sheath first'),
            'grommet_missing',
          ),
        ],
      ),
      step(
        'open',
        'Sheath opened',
        'strip',
        'jacket',
        'Opening length by the closure’s table, mid-sheath or butt.',
        [
          c.check(
            'opening-length',
            'Opening as the closure’s table says',
            4,
            commonPractice('by the closure’s table'),
            'opening_wrong',
          ),
          c.check('tube-whole', 'No tube nicked', 5, commonPractice('tubes stay whole'), 'tube_nicked', {
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
        'Member not too short, cap nut and clamp where they belong.',
        [
          c.measure(
            'member-gap',
            'Member short of its stop',
            3,
            'mm',
            atMost('2', house('by eye and rule'), '0'),
            house('2 mm at most short of the bracket’s end'),
            { hint: 'A member cut too short is held by its tip only.' },
          ),
          c.check(
            'holds',
            'Cable does not move in the bracket',
            4,
            commonPractice('the strength member takes the pull'),
            'cable_moves member_short',
          ),
        ],
      ),
    ],
  });
}

export const CLOSURE: readonly MethodSheet[] = CABLES.map(closure);
