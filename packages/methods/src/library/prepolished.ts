import type { MethodSheet, Step } from '@clear-mark/core';
import { atMost, between, type Criteria, criteriaOf, step, stop } from '../build.ts';
import { FIBER_CAUTIONS, LIGHT } from '../common/cautions.ts';
import {
  around,
  bareGlass,
  benchReady,
  cleaving,
  clearUp,
  inspecting,
  kit,
  partsOn,
  singleCordLoss,
} from '../common/steps.ts';
import { commonPractice } from '../sources.ts';
import { method } from './method.ts';

const THINGS = ['bench', 'cleaver', 'scope', 'instrument', 'cord'] as const;
const CAUTIONS = [...FIBER_CAUTIONS.slice(0, 1), LIGHT, ...FIBER_CAUTIONS.slice(1)];

/** What every pre-polished connector with a mechanical splice shares after its own locking. */
const afterLock = (c: Criteria): Step[] => [inspecting(c), ...singleCordLoss(c), clearUp(c)];

const jacket = (c: Criteria, mm: string, words: string): Step =>
  step(
    'jacket',
    'Jacket off',
    'strip',
    'jacket',
    'Marked at the card, in small pieces, square edge, yarn whole.',
    [
      c.measure('jacket-length', 'Jacket removed', 4, 'mm', around(mm, '2'), commonPractice(words)),
      c.check(
        'jacket-edge',
        'Edge square, yarn whole, no nick in the buffer',
        4,
        commonPractice('no nick in the layer below'),
        'ragged_edge yarn_cut buffer_nicked',
      ),
    ],
  );

const bow = (c: Criteria, how: string): Step =>
  step('insert', 'Fiber in to the stub', 'terminate', 'connector', how, [
    c.check(
      'bow',
      'At the stub, slight bow formed and kept',
      6,
      commonPractice('stop at the stub, slight bow, keep it pushed'),
      'no_bow bow_early forced_in bow_let_go',
      {
        critical: true,
        hint: 'No bow: cleave too short, or not home. Early bow: cleave too long, or something in the guide.',
      },
    ),
    c.check(
      'clean-guide',
      'Tip not dragged through the guide',
      3,
      commonPractice('never drag the tip through a dirty guide'),
      'tip_dragged',
    ),
  ]);

const bootLast = (c: Criteria): Step =>
  step(
    'boot',
    'Boot on, by the housing',
    'terminate',
    'connector',
    'Hold the housing: pulling the fiber opens a gap in the splice and loss jumps.',
    [
      c.check(
        'fiber-not-pulled',
        'Boot on by the housing, fiber not pulled',
        4,
        commonPractice('pulling the fiber opens a gap in the splice'),
        'fiber_pulled buffer_bent',
      ),
    ],
  );

function handleCrimped(): MethodSheet {
  const c = criteriaOf('handle-crimp');
  return method({
    name: 'handle-crimp',
    title: 'Pre-polished ST-style on jacketed cord, handle-operated crimp tool',
    summary:
      'Pushed home and locked by the full stroke of the handle. The front cap is the tool’s own and is used once.',
    pieceKind: 'connector',
    strip: { jacketMm: 40, bufferMm: 29, cleaveMm: 7 },
    things: THINGS,
    cautions: CAUTIONS,
    steps: [
      benchReady(c),
      kit(c, 'Rear grommet off, front cap stays on. Missing front cap: do not use it.'),
      partsOn(c, 'Boot and crimp sleeve on, narrow end first', 'Boot, then crimp sleeve, out of the way.'),
      jacket(c, '40', '40 mm for a crimped ST-style on jacketed cord'),
      step(
        'marks',
        'Two marks on the buffer',
        'strip',
        'buffer',
        'One at the jacket’s edge (shows slip), one 11 mm out.',
        [
          c.measure(
            'second-mark',
            'Second mark from the jacket',
            2,
            'mm',
            around('11', '0.5'),
            commonPractice('11 mm out'),
          ),
        ],
      ),
      ...bareGlass(c, null),
      ...cleaving(c, {
        lowerMm: '6.5',
        upperMm: '7.5',
        targetMm: '7',
        lengthWords: '7 mm from the buffer',
        angleDeg: '1.0',
        inspected: true,
      }),
      bow(c, 'Into the lead-in until it stops; reference line just outside the lead-in.'),
      step(
        'crimp',
        'Full stroke while pushing',
        'terminate',
        'connector',
        'Handle all the way while pushing; connector lifted straight out. Front cap once only: it deforms and loss rises.',
        [
          c.check(
            'full-stroke',
            'Full stroke of the handle, fiber kept pushed',
            5,
            commonPractice('full stroke of the handle while pushing'),
            'half_stroke bow_let_go',
            { critical: true },
          ),
          c.check(
            'line',
            'Reference line just outside the lead-in',
            3,
            commonPractice('reference line on the buffer just outside the lead-in'),
            'line_off',
          ),
          c.check(
            'cap-once',
            'Front cap on and new',
            4,
            commonPractice('used once: it deforms and loss rises'),
            'cap_reused cap_off',
          ),
          c.check(
            'straight-out',
            'Lifted straight out',
            2,
            commonPractice('connector lifted straight out'),
            'lifted_askew',
          ),
        ],
      ),
      bootLast(c),
      ...afterLock(c),
    ],
  });
}

function camLight(): MethodSheet {
  const c = criteriaOf('cam-light');
  return method({
    name: 'cam-light',
    title: 'Pre-polished LC on 900 um, cam tool with go/no-go light',
    summary:
      'The cam locks, the light tells, the crimp knob finishes. After green no reset until the connector is out.',
    pieceKind: 'connector',
    things: THINGS,
    cautions: CAUTIONS,
    steps: [
      benchReady(c),
      kit(c, 'Tool ready and reset, connector in, small boot for 900 um.'),
      partsOn(c, 'Boot on, narrow end first', 'Boot on, slid out of the way.'),
      ...bareGlass(c, null),
      ...cleaving(c, {
        lowerMm: '7.5',
        upperMm: '8.5',
        targetMm: '8',
        lengthWords: 'buffer edge at the 8 mm mark of the cleaver',
        angleDeg: '1.0',
        inspected: false,
      }),
      step('wait', 'Fiber stays in the cleaver', 'cleave', 'glass', 'Until the tool is ready for it.', [
        c.check(
          'kept',
          'Fiber left in the cleaver until needed',
          2,
          commonPractice('fiber stays in the cleaver until needed'),
          'laid_down face_brushed',
        ),
      ]),
      bow(c, 'In to the stub, slight bow.'),
      step(
        'cam',
        'Cam, light, knob',
        'terminate',
        'connector',
        'Cam button until the light tells. Red: reset, take out, reseat, cam again; still red: cleave again. Green: crimp knob half a turn either way; about 1 mm gap stays between cam and cap.',
        [
          c.measure(
            'mark-gap',
            'Mark from the lead-in',
            3,
            'mm',
            atMost('1', commonPractice('marks within 1 mm of the lead-in'), '0'),
            commonPractice('marks within 1 mm of the lead-in'),
          ),
          c.check('green', 'Light green', 6, commonPractice('still red: cleave again'), 'light_red', {
            critical: true,
          }),
          c.check(
            'half-turn',
            'Crimp knob half a turn',
            3,
            commonPractice('either way, slight resistance is normal'),
            'knob_not_turned',
          ),
          c.check(
            'no-reset',
            'No reset before the connector was out',
            5,
            commonPractice('it undoes the cam'),
            'reset_early',
            { critical: true },
          ),
        ],
        [stop('The light of the tool is a laser as well: never look into the connector.')],
      ),
      bootLast(c),
      ...afterLock(c),
    ],
  });
}

interface Wedge {
  readonly name: string;
  readonly connector: string;
  readonly locator: boolean;
  readonly jacketMm: string;
  readonly bufferMm: string;
  readonly lowerMm: string;
  readonly upperMm: string;
  readonly targetMm: string;
}

const WEDGES: readonly Wedge[] = [
  {
    name: 'lc-wedge',
    connector: 'LC',
    locator: false,
    jacketMm: '70',
    bufferMm: '40',
    lowerMm: '10',
    upperMm: '11',
    targetMm: '10.5',
  },
  {
    name: 'st-wedge-locator',
    connector: 'ST-style',
    locator: true,
    jacketMm: '65',
    bufferMm: '35',
    lowerMm: '10',
    upperMm: '11',
    targetMm: '10.5',
  },
  {
    name: 'st-wedge',
    connector: 'ST-style',
    locator: false,
    jacketMm: '65',
    bufferMm: '35',
    lowerMm: '10',
    upperMm: '11',
    targetMm: '10.5',
  },
];

function wedge(w: Wedge): MethodSheet {
  const c = criteriaOf(w.name);
  const proof = w.locator
    ? c.check(
        'glow-dims',
        'Glow dimmed at the window',
        5,
        commonPractice('light at the window means the faces do not meet'),
        'glow_stayed locator_off',
        { critical: true },
      )
    : c.check(
        'home',
        'Bow stood until the release, mark at the lead-in',
        5,
        commonPractice('without a locator the bow and the mark are the proof, and the loss decides'),
        'bow_let_go line_off',
        { critical: true },
      );
  return method({
    name: w.name,
    title: `Pre-polished ${w.connector}, wedge released, ${w.locator ? 'with' : 'without'} fault locator`,
    summary: `A single-mode ${w.connector} on a 2 or 3 mm cord. The wedge is in fully, the bow stands, both sides are squeezed.`,
    pieceKind: 'connector',
    strip: { jacketMm: Number(w.jacketMm), bufferMm: Number(w.bufferMm), cleaveMm: Number(w.targetMm) },
    things: THINGS,
    cautions: CAUTIONS,
    steps: [
      benchReady(c),
      kit(
        c,
        `Single-mode ${w.connector}, front cap on, wedge unit complete. A 250 um fiber takes its protective tube.`,
      ),
      partsOn(
        c,
        'Cable clamp, then boot, narrow end first',
        'Cable clamp before the boot, then the boot, narrow end first.',
      ),
      jacket(c, w.jacketMm, `${w.jacketMm} mm for a wedge-released ${w.connector}`),
      ...bareGlass(c, {
        mm: w.bufferMm,
        tolerance: '1',
        words: `${w.bufferMm} mm for a wedge-released ${w.connector}`,
      }),
      ...cleaving(c, {
        lowerMm: w.lowerMm,
        upperMm: w.upperMm,
        targetMm: w.targetMm,
        lengthWords: '10 to 11 mm for a wedge-released connector',
        angleDeg: '1.0',
        inspected: true,
      }),
      bow(
        c,
        'Wedge fully in first: squeeze top and bottom until it clicks. Then the fiber in to the stub, slight bow, kept pushed.',
      ),
      step(
        'release',
        'Wedge released',
        'terminate',
        'connector',
        w.locator
          ? 'Both sides squeezed after the bow has formed; the glow at the window dims. Then locator off and cap on.'
          : 'Both sides squeezed after the bow has formed.',
        [
          c.check(
            'wedge-in',
            'Wedge was fully in before the fiber',
            3,
            commonPractice('squeeze top and bottom, click'),
            'wedge_not_seated',
          ),
          c.check(
            'both-sides',
            'Both sides squeezed with the bow standing',
            4,
            commonPractice('squeeze after the bow has formed'),
            'released_before_bow one_side_only',
          ),
          proof,
        ],
        w.locator ? [stop('The fault locator is a laser: never look into the connector.')] : [],
      ),
      step(
        'secure',
        'Cord secured, tool off',
        'terminate',
        'yarn',
        `Cable out of the grip, boot past it, cable straightened and back; yarn halved and pulled taut with the buffer straight; boot screwed on; wedge unit off, yarn trimmed, clamp off.${w.connector === 'LC' ? '' : ' The housing goes on last.'}`,
        [
          c.check(
            'yarn',
            'Yarn halved, taut, held by the boot',
            4,
            commonPractice('the boot fixes the yarn'),
            'yarn_uneven yarn_slack yarn_missed',
          ),
          c.check(
            'finish',
            'Wedge unit and clamp off, yarn trimmed, cap on',
            3,
            commonPractice('finished as the instructions show'),
            'yarn_not_trimmed cap_off clamp_left_on',
          ),
        ],
      ),
      ...afterLock(c),
    ],
  });
}

function fiberHolder(): MethodSheet {
  const c = criteriaOf('holder-base');
  return method({
    name: 'holder-base',
    title: 'Pre-polished SC on 900 or 250 um, fiber holder on an assembly base',
    summary: 'The bow of the fiber tells everything: it must start at the mark.',
    pieceKind: 'connector',
    things: THINGS,
    cautions: CAUTIONS,
    steps: [
      benchReady(c),
      kit(c, 'Both caps off at the start. Fiber into the holder with its natural bow down.'),
      partsOn(c, 'Boot on, narrow end first', 'Boot on, out of the way.'),
      ...bareGlass(c, {
        mm: '25',
        tolerance: '1',
        words: 'about 25 mm for a pre-polished SC with fiber holder',
      }),
      ...cleaving(c, {
        lowerMm: '7.5',
        upperMm: '8.5',
        targetMm: '8',
        lengthWords: '8 mm, checked on the base’s marks',
        angleDeg: '1.0',
        inspected: true,
      }),
      step(
        'base',
        'On the base',
        'terminate',
        'connector',
        'Holder opened before cleaving. Funnel forward, fiber end flush with it; no gap between holder and base.',
        [
          c.check(
            'no-gap',
            'No gap between holder and base',
            3,
            commonPractice('no gap between holder and base'),
            'holder_gap',
          ),
          c.check(
            'bow-down',
            'Natural bow of the fiber down, end flush with the funnel',
            3,
            commonPractice('natural bow down, funnel forward, fiber end flush'),
            'bow_up not_flush',
          ),
        ],
      ),
      step(
        'enter',
        'Bow starts at the mark',
        'terminate',
        'connector',
        'None: restrip, clean, cleave. Early: draw back without leaving the connector until it is gone and enter once more; still early: start over. Seen again when fully home.',
        [
          c.check(
            'bow-at-mark',
            'Bow started at the mark',
            6,
            commonPractice('the bow must start at the mark'),
            'no_bow bow_early',
            { critical: true },
          ),
          c.check(
            'right-remedy',
            'Right remedy taken when it did not',
            3,
            commonPractice('none: restrip; early: draw back and once more'),
            'wrong_remedy',
            { optional: true },
          ),
          c.check(
            'bow-home',
            'Bow seen again when fully home',
            4,
            commonPractice('bow seen again when fully home'),
            'bow_let_go',
          ),
        ],
      ),
      step(
        'lock',
        'Locked',
        'terminate',
        'connector',
        'Press the button, then squeeze the lever and push the ears (buffer clamp).',
        [
          c.check(
            'button',
            'Button, then lever, then ears',
            4,
            commonPractice('press the button, then squeeze the lever and push the ears'),
            'wrong_order ears_not_pushed',
          ),
        ],
      ),
      bootLast(c),
      ...afterLock(c),
    ],
  });
}

function flatJig(): MethodSheet {
  const c = criteriaOf('flat-jig');
  return method({
    name: 'flat-jig',
    title: 'Pre-polished SC on flat 1.6 x 2 mm cable, assembly jig',
    summary:
      'Members through the back post, cut by the spacer, clicked in, cover closed, wedge pulled; the windows tell.',
    pieceKind: 'connector',
    things: THINGS,
    cautions: CAUTIONS,
    steps: [
      benchReady(c),
      kit(c, 'SC for flat cable, screw cap, jig with its spacer.'),
      partsOn(
        c,
        'Screw cap on, threads to the end',
        'Screw cap on first, threads facing the end to be terminated.',
      ),
      step(
        'members',
        'Jacket and members',
        'strip',
        'jacket',
        '55 mm of jacket off; members folded back 180 degrees and cut to 5 mm.',
        [
          c.measure(
            'jacket-length',
            'Jacket removed',
            4,
            'mm',
            around('55', '2'),
            commonPractice('55 mm for flat 1.6 x 2 mm cable'),
          ),
          c.measure(
            'member-length',
            'Members left',
            3,
            'mm',
            around('5', '1'),
            commonPractice('folded back and cut to 5 mm'),
          ),
        ],
      ),
      step(
        'post',
        'Members through the back post',
        'terminate',
        'connector',
        'Through the gaps, tucked, cap screwed to a positive stop.',
        [
          c.check(
            'tucked',
            'Members through the gaps, cap to a positive stop',
            4,
            commonPractice('tucked, cap screwed to a positive stop'),
            'member_not_held nut_loose',
          ),
        ],
      ),
      ...bareGlass(c, null),
      step(
        'spacer-cleave',
        'Bend check, clean, cleave by the spacer',
        'cleave',
        'glass',
        'Strip with the cable in the spacer, out for the bend check, clean, back in, cleave. No gap between spacer and cleaver, fiber straight.',
        [
          c.check(
            'bend-check',
            'Out of the spacer for the bend check, cleaned after',
            3,
            commonPractice('bend check, then cleaning'),
            'not_bent not_cleaned',
          ),
          c.check(
            'spacer-seated',
            'No gap between spacer and cleaver, fiber straight',
            4,
            commonPractice('flip or reseat the cable until it lies straight'),
            'spacer_gap',
          ),
          c.check(
            'not-wiped',
            'Not wiped after the cleave',
            3,
            commonPractice('wiping leaves debris on the face'),
            'wiped_after_cleave',
          ),
        ],
      ),
      step(
        'jig',
        'In the jig',
        'terminate',
        'connector',
        'Connector in from the top, to the arrow, no gap. Click into the side latches, cover closed (two clicks), wedge pulled. A slight bow at the click is right, a large one before it: stop and try again.',
        [
          c.check(
            'latches',
            'Clicked into the side latches with a slight bow',
            6,
            commonPractice('slight bow at the click is right'),
            'no_bow bow_early latch_open',
            { critical: true },
          ),
          c.count(
            'clicks',
            'Clicks of the cover',
            2,
            'clicks',
            between('2', '2', commonPractice('two clicks')),
            commonPractice('close cover, two clicks'),
          ),
          c.check(
            'lines',
            'Length against the jig’s lines',
            2,
            commonPractice('length against the jig’s lines'),
            'line_off',
          ),
        ],
      ),
      step(
        'windows',
        'Windows checked',
        'terminate',
        'connector',
        'Red light, weakened by 3 dB, through a launch cord whose polish matches, in an adapter cut open over the windows.',
        [
          c.check(
            'windows-dark',
            'No light at the windows',
            5,
            commonPractice('no light passes, clear light fails; faint light is the instructor’s call'),
            'light_at_window',
            { critical: true },
          ),
        ],
        [stop('The red check light is a laser: look at the windows from the side, never into the ferrule.')],
      ),
      ...afterLock(c),
    ],
  });
}

function plunger(): MethodSheet {
  const c = criteriaOf('plunger-crimp');
  return method({
    name: 'plunger-crimp',
    title: 'Pre-polished connector, plunger tool, two crimps',
    summary:
      'Locked by a quarter turn and the plunger, then the stem and the sleeve are crimped with their dies.',
    pieceKind: 'connector',
    things: THINGS,
    cautions: CAUTIONS,
    steps: [
      benchReady(c),
      kit(c, 'Both caps on until the rear one comes off at insertion.'),
      partsOn(
        c,
        'Boot, then sleeve, grooved end first',
        'Boot, then sleeve, grooved end first where it has one, parked about 30 mm back to hold the yarn.',
      ),
      step(
        'park',
        'Sleeve parked, cord clamped',
        'strip',
        'yarn',
        'Sleeve about 30 mm back; cable clamp about 250 or 300 mm from the end; cord clamped with a slight bow.',
        [
          c.measure(
            'parked',
            'Sleeve back from the end of the jacket',
            2,
            'mm',
            around('30', '5'),
            commonPractice('about 30 mm back'),
          ),
          c.check(
            'clamped',
            'Cord clamped with a slight bow',
            2,
            commonPractice('cord clamped with a slight bow'),
            'cord_taut',
          ),
        ],
      ),
      ...bareGlass(c, null),
      ...cleaving(c, {
        lowerMm: '7.5',
        upperMm: '8.5',
        targetMm: '8',
        lengthWords: 'by the cleaver’s mark for this connector',
        angleDeg: '1.0',
        inspected: true,
      }),
      bow(c, 'Rear cap off, quarter turn to lock the connector, fiber in to the stub.'),
      step(
        'plunge',
        'Plunger with its release wire',
        'terminate',
        'connector',
        'Plunger with its release wire, quarter turn out. Gap between jacket and stem under 2 mm.',
        [
          c.check(
            'plunged',
            'Plunger fully, quarter turn out',
            5,
            commonPractice('quarter turn to lock, plunger with its release wire, quarter turn out'),
            'half_stroke turned_early',
            { critical: true },
          ),
          c.measure(
            'stem-gap',
            'Gap between jacket and stem',
            4,
            'mm',
            { upper: { value: '2', exclusive: true, source: commonPractice('under 2 mm') }, target: '0' },
            commonPractice('gap between jacket and stem under 2 mm'),
          ),
        ],
      ),
      step(
        'crimps',
        'Two crimps',
        'terminate',
        'yarn',
        'Stem with the first die, back in and an eighth turn back; yarn cut at the body and spread; sleeve butted to the ring and crimped with the middle die.',
        [
          c.check(
            'first-die',
            'Stem crimped with the first die',
            4,
            commonPractice('crimp the stem with the first die'),
            'wrong_die',
          ),
          c.check(
            'eighth-turn',
            'Back in and an eighth turn back',
            2,
            commonPractice('back in and an eighth turn back'),
            'turn_missing',
          ),
          c.check(
            'sleeve-butted',
            'Yarn spread, sleeve butted, middle die',
            4,
            commonPractice('sleeve butted to the ring'),
            'sleeve_not_butted yarn_uneven wrong_die',
          ),
        ],
      ),
      bootLast(c),
      ...afterLock(c),
    ],
  });
}

export const PREPOLISHED: readonly MethodSheet[] = [
  handleCrimped(),
  camLight(),
  ...WEDGES.map(wedge),
  fiberHolder(),
  flatJig(),
  plunger(),
];
