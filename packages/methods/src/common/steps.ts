import type { Step } from '@clear-mark/core';
import { atLeast, between, type Criteria, level, type More, step, stop } from '../build.ts';
import { SINGLE_MODE_INSIDE } from '../loss-rules.ts';
import { commonPractice, commonPracticeFromMemory, house, standardFromMemory } from '../sources.ts';

/** Steps that many methods share, each under the ids of the method that asks for it. */

export const benchReady = (c: Criteria): Step =>
  step(
    'bench-ready',
    'Bench made safe',
    'strip',
    'bench',
    'Glasses on, black mat out, tape loop or sharps container within reach, nothing to eat or drink.',
    [
      c.check(
        'glasses',
        'Safety glasses on',
        2,
        commonPractice('glasses from the first strip to the last sweep'),
        'no_glasses',
        { stop: true },
      ),
      c.check(
        'shards-ready',
        'Mat and sharps container in place',
        2,
        commonPractice('offcuts go on tape or into the container at once'),
        'no_sharps_container no_mat',
      ),
    ],
    [stop('No stripping without safety glasses.')],
  );

export const clearUp = (c: Criteria): Step =>
  step(
    'clear-up',
    'Bench cleared',
    'strip',
    'bench',
    'Offcuts counted into the container, mat swept, hands washed before anything else.',
    [
      c.check(
        'offcuts-counted',
        'All offcuts accounted for',
        3,
        commonPractice('counted at the end'),
        'offcuts_missing not_swept',
      ),
    ],
  );

export const kit = (c: Criteria, how: string): Step =>
  step('kit', 'Kit confirmed', 'strip', 'connector', how, [
    c.check(
      'kit',
      'Right parts for this fiber, caps on, dates good',
      3,
      commonPractice(
        'confirm the kit before opening anything; a connector without its front cap is not used',
      ),
      'wrong_connector cap_missing wrong_boot out_of_date',
      { ofTrainee: true },
    ),
  ]);

export const partsOn = (c: Criteria, label: string, how: string): Step =>
  step('parts-on', 'Parts on first', 'strip', 'jacket', how, [
    c.check(
      'parts-on',
      label,
      5,
      commonPractice('the step people forget most; it costs the finished piece'),
      'boot_forgotten boot_reversed sleeve_forgotten wrong_order',
      { critical: true },
    ),
  ]);

/** Buffer off in sections, coating gone, glass cleaned and left alone. `bare` in mm; null leaves it to the cleaver. */
export const bareGlass = (
  c: Criteria,
  bare: { readonly mm: string; readonly tolerance: string; readonly words: string } | null,
): Step[] => [
  step(
    'buffer',
    'Buffer off in sections',
    'strip',
    'buffer',
    'About 5 mm a bite. Hold the jacket meanwhile so that the fiber does not slide inside.',
    [
      c.count(
        'bites',
        'Bites with the stripper',
        2,
        'bites',
        atLeast('2', commonPractice('at least two sections')),
        commonPractice('at least two sections, so that the glass does not break'),
      ),
      ...(bare
        ? [
            c.measure(
              'bare-length',
              'Buffer removed',
              4,
              'mm',
              around(bare.mm, bare.tolerance),
              commonPractice(bare.words),
            ),
          ]
        : []),
      c.check(
        'coating-gone',
        'No clear coating left on the glass',
        4,
        commonPractice('a fiber that still has its coating does not enter the connector'),
        'coating_left',
        { critical: true },
      ),
      c.check(
        'no-nick',
        'Glass and buffer without a nick',
        3,
        commonPractice('no nick in the layer below'),
        'glass_nicked buffer_nicked',
      ),
    ],
  ),
  step(
    'clean',
    'Glass cleaned',
    'strip',
    'glass',
    'Lint-free wipe with alcohol, one or two passes. Then the glass is not touched or laid down.',
    [
      c.count(
        'wipe-passes',
        'Wipe passes',
        3,
        'passes',
        between('1', '2', commonPractice('one or two passes')),
        commonPractice('lint-free wipe with alcohol, 95 % or better'),
      ),
      c.check(
        'not-touched',
        'Glass not touched after cleaning',
        4,
        commonPractice('clean, then never touched again'),
        'touched_after_cleaning laid_down',
      ),
    ],
  ),
];

/** A target with the same tolerance on either side, as exact decimal text. */
export function around(target: string, tolerance: string) {
  const places = Math.max(...[target, tolerance].map((t) => t.split('.')[1]?.length ?? 0));
  const edge = (sign: 1 | -1): string => (Number(target) + sign * Number(tolerance)).toFixed(places);
  return between(edge(-1), edge(1), house(`${tolerance} either way`), target);
}

export const CLEAVE_FACES = [
  level('mirror', 'Mirror', 'pass', 5, 'cleave-mirror'),
  level('mist', 'Mist at the edge', 'marginal_pass', 3, 'cleave-mist'),
  level('lip', 'Lip', 'fail', 0, 'cleave-lip'),
  level('hackle', 'Hackle', 'fail', 0, 'cleave-hackle'),
  level('chip', 'Chip or crack', 'fail', 0, 'cleave-chip'),
];

interface CleaveLimits {
  readonly lowerMm: string;
  readonly upperMm: string;
  readonly targetMm: string;
  readonly lengthWords: string;
  readonly angleDeg: string;
  readonly inspected: boolean;
}

/** Cleaver made ready, cleave, and, where the kit has a scope, a look at it. */
export const cleaving = (c: Criteria, limits: CleaveLimits): Step[] => [
  step(
    'cleaver-ready',
    'Cleaver made ready',
    'cleave',
    'bench',
    'Fiber guide at its stop, carriage on the pre-cleave side, clamp open, last offcut gone, pads clean.',
    [
      c.check(
        'cleaver-ready',
        'Cleaver clean, carriage back, old offcut out',
        2,
        commonPractice('cleaned before and after use'),
        'carriage_forward offcut_left_in pads_dirty',
      ),
    ],
  ),
  step(
    'cleave',
    'Cleave',
    'cleave',
    'glass',
    'Buffer edge on the length mark, fiber straight and level. Close the clamp, one smooth move to the stop.',
    [
      c.measure(
        'cleave-length',
        'Cleave length from the buffer edge',
        6,
        'mm',
        between(limits.lowerMm, limits.upperMm, commonPractice(limits.lengthWords), limits.targetMm),
        commonPractice(limits.lengthWords),
        {
          critical: true,
          hint: 'Too long: the bow starts early and the buffer cannot seat. Too short: no bow, an air gap.',
        },
      ),
      c.check(
        'one-stroke',
        'One smooth stroke, face brushed on nothing',
        2,
        commonPractice('the carriage moves once, to its stop'),
        'two_strokes face_brushed',
      ),
      c.check(
        'not-wiped',
        'Not wiped after the cleave',
        3,
        commonPractice('wiping leaves debris on the face where it cannot be cleaned well'),
        'wiped_after_cleave',
      ),
      c.check(
        'offcut',
        'Offcut in the container',
        2,
        commonPractice('offcuts are put away at once and counted'),
        'offcut_loose',
      ),
    ],
  ),
  ...(limits.inspected
    ? [
        step(
          'cleave-look',
          'Cleave inspected',
          'cleave',
          'glass',
          'In the cleave scope, pointed at something white. A bad one: strip again, clean again, cleave again.',
          [
            c.measure(
              'cleave-angle',
              'Cleave angle',
              6,
              'deg',
              {
                upper: {
                  value: limits.angleDeg,
                  source: commonPracticeFromMemory(`${limits.angleDeg} degree by common practice`),
                },
                target: '0',
              },
              commonPracticeFromMemory('the instructions of the connector in hand go first'),
              {
                critical: true,
                uncertainty: { value: '0.1', source: house('reading the angle off the cleave scope') },
              },
            ),
            c.grade(
              'cleave-face',
              'Face of the cleave',
              5,
              CLEAVE_FACES,
              commonPractice('mirror: no hackle, lip, chip, spiral or crack'),
              { critical: true },
            ),
          ],
        ),
      ]
    : []),
];

export const END_FACES = [
  level('clean', 'Clean', 'pass', 5, 'face-clean'),
  level('marks-outside', 'Marks outside the core zone', 'marginal_pass', 4, 'face-outer'),
  level('dirty', 'Dirt or film left', 'fail', 0, 'face-dirt'),
  level('damaged', 'Scratch or pit at the core', 'fail', 0, 'face-core'),
];

export const inspecting = (c: Criteria, maker: 'terminate' | 'inspect' = 'terminate'): Step =>
  step(
    'inspect',
    'End face inspected by eye',
    'inspect',
    'connector',
    'Source off. Inspect, clean dry if needed, inspect again; wet then dry if it stays. 200x at least, 400x to grade a polish.',
    [
      c.check(
        'dark-fiber',
        'Fiber known to be dark before the scope',
        3,
        commonPractice('source off, or the far end disconnected'),
        'live_fiber_scoped',
        { stop: true },
      ),
      c.check(
        'inspect-order',
        'Inspected, cleaned if needed, inspected again',
        4,
        commonPractice('inspect, clean, inspect again, then connect'),
        'cleaned_unseen not_inspected_again alcohol_left',
      ),
      c.grade(
        'end-face',
        'End face as it goes to the test',
        5,
        END_FACES,
        standardFromMemory('IEC 61300-3-35: no scratch or defect in the core zone, single-mode'),
        { skill: maker },
      ),
      c.call(
        'inspect-call',
        'Trainee judged the face as the instructor does',
        3,
        'end-face',
        commonPractice('calling a bad face good puts it into a customer’s panel'),
      ),
    ],
    [stop('No microscope on a connector whose other end is at a source or could be live.')],
  );

/** The zero, and that it stays: the same wherever a reference is set. */
export const referenceChecks = (c: Criteria, more: More = {}) => [
  c.check(
    'reference-set',
    'Zero shown at both wavelengths',
    4,
    commonPractice('after setting, the meter must read 0.00 dB'),
    'not_zeroed one_wavelength_only',
  ),
  c.check(
    'cord-stays',
    'Launch cord left on the source',
    4,
    commonPractice('taken off, the reference is gone'),
    'cord_taken_off',
    more,
  ),
];

/** Set-up, reference and loss by a single launch cord: the finished end at the launch cord, the far end in the meter. */
export const singleCordLoss = (c: Criteria): Step[] => [
  step(
    'reference',
    'Source, meter and reference',
    'test',
    'instruments',
    'On, auto-off disabled, continuous wave, same wavelength on both, single-mode launch cord inspected and clean. Set to zero at 1310 and 1550 nm; from then on the cord stays on the source.',
    [
      c.check(
        'set-up',
        'Same wavelength, continuous wave, right cord',
        4,
        commonPractice('cords of the same core size as the link'),
        'wavelengths_differ modulated wrong_core_cord',
      ),
      ...referenceChecks(c),
    ],
    [stop('Source on: invisible light at every open end. Cap what is not used.')],
  ),
  step(
    'loss',
    'Loss read',
    'test',
    'instruments',
    'Finished end at the launch cord, far end straight into the meter: one connection counts. Let each reading settle.',
    [
      c.loss(
        'loss',
        'Loss of the finished end',
        10,
        [1310, 1550],
        { fiberClass: 'OS2', lengthM: 2, matedPairs: 1, splices: 0, referenceMethod: 'single_cord' },
        SINGLE_MODE_INSIDE,
        commonPractice('near connection only: at the meter nothing touches, its detector is wide'),
        { skill: 'terminate', critical: true },
      ),
      c.call(
        'trainee-verdict',
        'Trainee’s verdict agrees with the limit',
        4,
        'loss',
        commonPractice('judged against the limit of this link, not by feel'),
      ),
      c.check(
        'record',
        'Record complete',
        3,
        commonPractice('fiber, direction, wavelength, method, reference value, limit'),
        'record_incomplete',
      ),
    ],
  ),
];
