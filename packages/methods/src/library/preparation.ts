import type { MethodSheet, Step } from '@clear-mark/core';
import { atLeast, atMost, between, care, criteriaOf, step } from '../build.ts';
import { BLADES, CABLE, DEFER, FIBER_CAUTIONS, GLASS } from '../common/cautions.ts';
import { around, bareGlass, benchReady, clearUp, kit, partsOn } from '../common/steps.ts';
import { commonPractice, house } from '../sources.ts';
import { method } from './method.ts';

function roundCord(): MethodSheet {
  const c = criteriaOf('round-cord');
  return method({
    name: 'round-cord',
    title: 'Round 3 mm cord prepared for an adhesive ST-style connector',
    summary:
      'Jacket, yarn and buffer of a 3 mm cord to the marks of the card, ready for adhesive. A 4 mm cord has its own side of the card.',
    pieceKind: 'cord',
    strip: { jacketMm: 35, bufferMm: 20, cleaveMm: 20 },
    things: ['bench'],
    cautions: FIBER_CAUTIONS,
    steps: [
      benchReady(c),
      kit(
        c,
        'Gauge hole of the card tells the crimp sleeve: it follows the jacket’s diameter. Large boot for jacketed cord.',
      ),
      partsOn(
        c,
        'Boot, then crimp sleeve, narrow end first',
        'Boot, then crimp sleeve, narrow end first, slid well out of the way.',
      ),
      step(
        'mark',
        'Marked at 35 and 25 mm',
        'strip',
        'jacket',
        'Cable end on the card’s end line; marks at 35 and 25 mm, and compared with the card again after stripping.',
        [
          c.check(
            'marks',
            'Both marks made at the card, checked again',
            2,
            commonPractice('marks at 35 and 25 mm; if a mark moved while stripping, readjust'),
            'mark_off not_compared',
          ),
        ],
      ),
      step(
        'jacket',
        'Jacket off to 25, then to 35 mm',
        'strip',
        'jacket',
        'Off to 25 mm first, in two pieces. Yarn gathered, twisted and cut with the yarn shears. Then the jacket to 35 mm: the difference leaves the yarn’s length.',
        [
          c.measure(
            'jacket-length',
            'Jacket removed',
            4,
            'mm',
            around('35', '1'),
            commonPractice('35 mm in the end, 25 mm first'),
          ),
          c.count(
            'jacket-pieces',
            'Pieces the first 25 mm came off in',
            1,
            'pieces',
            atLeast('2', commonPractice('in two pieces')),
            commonPractice('jacket off in small pieces'),
          ),
          c.measure(
            'yarn-length',
            'Yarn left beyond the jacket',
            4,
            'mm',
            around('10', '1'),
            commonPractice('the difference of the two marks'),
            {
              hint: 'Too short: it does not reach the crimp post. Too long: it jams between housing and post.',
            },
          ),
          c.check(
            'jacket-edge',
            'Edge square, no nick in the buffer',
            4,
            commonPractice('no nick in the layer below'),
            'ragged_edge buffer_nicked',
          ),
          c.check(
            'yarn-cut',
            'Yarn twisted and cut clean with the yarn shears',
            2,
            commonPractice('ordinary scissors fray it'),
            'yarn_frayed wrong_shears',
          ),
        ],
        [care('Cut away from the hand; the yarn shears are kept for cable and yarn.')],
      ),
      ...bareGlass(c, { mm: '20', tolerance: '1', words: 'a mark at 20 mm for the buffer' }),
      clearUp(c),
    ],
  });
}

function bufferStrip(): MethodSheet {
  const c = criteriaOf('buffer-strip-900');
  return method({
    name: 'buffer-strip-900',
    title: '900 um buffer stripped, tight or semi-tight told first',
    summary:
      'The buffer is tried between the fingers, held by what it is, and taken off in bites without a nick.',
    pieceKind: 'cord',
    things: ['bench'],
    cautions: FIBER_CAUTIONS,
    steps: [
      benchReady(c),
      step(
        'try',
        'Tight or semi-tight',
        'strip',
        'buffer',
        'Score the buffer with the stripper and pull with the fingers: slides off easily, it is semi-tight.',
        [
          c.check(
            'told',
            'Kind told rightly',
            4,
            commonPractice('semi-tight slides off when scored and pulled'),
            'kind_mistaken not_tried',
          ),
          c.check(
            'held',
            'Semi-tight held in the fiber holder, its own groove',
            3,
            commonPractice('semi-tight stretches; the clamping force differs'),
            'holder_not_used wrong_groove',
            { optional: true },
          ),
        ],
      ),
      ...bareGlass(c, { mm: '25', tolerance: '1', words: 'about 25 mm for a 900 or 250 um fiber' }),
      step(
        'integrity',
        'Integrity check',
        'strip',
        'glass',
        'Bend the stripped end about 30 degrees in four directions.',
        [
          c.check(
            'bend-holds',
            'Bent four ways, glass held',
            3,
            commonPractice('a nicked fiber breaks now instead of inside the connector'),
            'not_bent glass_broke',
            { critical: true },
          ),
        ],
      ),
      clearUp(c),
    ],
  });
}

function flatDrop(): MethodSheet {
  const c = criteriaOf('flat-drop');
  return method({
    name: 'flat-drop',
    title: 'Flat drop cable into a furcation tube',
    summary:
      'Both strength members bared and peeled away straight, the cable slit along its grooves, the fiber fed into a furcation tube and the tube twisted on.',
    pieceKind: 'cord',
    things: ['bench'],
    cautions: [GLASS, CABLE, BLADES, DEFER],
    steps: [
      benchReady(c),
      step(
        'pulls',
        'Two pulls of the tool',
        'strip',
        'jacket',
        'First on its edge in slot one, closed snugly: bares the outer sides of both members. Then flat in slot two, about 80 mm, flip, the other face.',
        [
          c.measure(
            'strip-length',
            'Strip length',
            4,
            'mm',
            around('80', '10'),
            commonPractice('about 80 mm, a little more or less is fine'),
          ),
          c.check(
            'both-faces',
            'Edge first, then both faces',
            3,
            commonPractice('slot one, slot two, flip'),
            'slots_swapped one_face_only',
          ),
        ],
      ),
      step(
        'members',
        'Strength members peeled away',
        'strip',
        'jacket',
        'All along, without bending them, then cut off.',
        [
          c.check(
            'not-bent',
            'Peeled straight, not snapped',
            4,
            commonPractice('bent they snap and are then hard to remove'),
            'member_snapped',
          ),
        ],
        [care('The strength member is under spring tension.')],
      ),
      step(
        'slit',
        'Slit along the grooves',
        'strip',
        'buffer',
        'Leftover cut away. Slit where the members lay, never along the printed face; pull the halves apart, free the fiber, trim the halves short.',
        [
          c.check(
            'grooves',
            'Slit in both grooves, not along the print',
            4,
            commonPractice('along the two grooves where the members lay'),
            'slit_at_print',
          ),
          c.check(
            'fiber-untouched',
            'Fiber not touched by the blade',
            4,
            commonPractice('trim the halves without touching the fiber'),
            'fiber_cut',
            { critical: true },
          ),
        ],
      ),
      step(
        'tube',
        'Furcation tube on',
        'strip',
        'buffer',
        'Run the fingers along the tube: any kink and it goes in the bin. Feed the fiber, press the tube’s end on, twist until tight.',
        [
          c.check(
            'no-kink',
            'Tube without a kink',
            3,
            commonPractice('past a kink the fiber will not go'),
            'tube_kinked',
          ),
          c.count(
            'twists',
            'Twists of the tube',
            4,
            'twists',
            between('5', '7', commonPractice('5 to 7 twists until tight')),
            commonPractice('5 to 7 twists'),
          ),
          c.check(
            'fiber-out',
            'Fiber sticks out of the tube',
            5,
            commonPractice('none out: the strip was too short'),
            'strip_too_short',
            { critical: true },
          ),
        ],
      ),
      clearUp(c),
    ],
  });
}

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

export const PREPARATION: readonly MethodSheet[] = [
  roundCord(),
  bufferStrip(),
  flatDrop(),
  ...CABLES.map(closure),
];
