import type { Step } from '@clear-mark/core';
import { atLeast, atMost, type Criteria, level, type More, step, stop } from '../build.ts';
import { SINGLE_MODE_INSIDE } from '../loss-rules.ts';
import { commonPractice, house, standardFromMemory } from '../sources.ts';

/** The end face by eye. The scale is of the house; what is allowed is by the zones of the table in force. */
export const END_FACES = [
  level('clean', 'Clean', 'pass', 5, 'face-clean'),
  level('marks-outside', 'Marks that the zone table allows', 'pass', 5, 'face-outer'),
  level('dirty', 'Dirt or film still there after the cleanings', 'fail', 0, 'face-dirt'),
  level('damaged', 'Scratch, pit or crack in the core zone', 'fail', 0, 'face-core'),
  level('broken', 'Fracture, chip, void or adhesive ring', 'fail', 0, 'face-broken'),
];

export const LIVE_SCOPE = stop(
  'No microscope on a connector whose other end is at a source or could be live.',
);

export const cleanings = (c: Criteria) =>
  c.count(
    'cleanings',
    'Cleanings until it was clean',
    1,
    'cleanings',
    atMost('3', house('three cleanings; what stays then is damage')),
    house('loose dirt is cleaned and looked at again, not failed'),
    { trainee: true, skill: 'inspect' },
  );

export const noLight = (c: Criteria) =>
  c.check(
    'dark-fiber',
    'No light verified before microscope',
    3,
    commonPractice('both ends off source and meter first'),
    'live_fiber_scoped',
    { stop: true },
  );

/** A fine scratch shows at 400 times: asked where a polish is judged, when the instructor sees it. */
const polishMagnification = (c: Criteria) =>
  c.count(
    'polish-magnification',
    'Magnification the polish is judged at',
    1,
    'times',
    atLeast('400', commonPractice('400 times to grade a polish')),
    commonPractice('200 times for dirt, 400 to grade a polish'),
    { sampled: true },
  );

export const inspecting = (
  c: Criteria,
  how = 'Both ends off source and meter. Look, clean if needed, look again. 200 times at least.',
  maker: 'terminate' | 'inspect' = 'terminate',
  polished = false,
): Step =>
  step(
    'inspect',
    'End face inspected',
    'inspect',
    'connector',
    how,
    [
      noLight(c),
      c.check(
        'inspect-order',
        'Inspected, cleaned if needed, inspected again',
        4,
        commonPractice('look, clean if needed, look again, then mate or cap'),
        'cleaned_unseen not_inspected_again alcohol_left',
        { sampled: true },
      ),
      cleanings(c),
      ...(polished ? [polishMagnification(c)] : []),
      c.grade(
        'end-face',
        'End-face condition before mating',
        5,
        END_FACES,
        standardFromMemory('zones of IEC 61300-3-35; the scale by eye is of the house'),
        { skill: maker, critical: true, hint: 'Dirt that stays after the cleanings is damage.' },
      ),
      c.call(
        'inspect-call',
        'Pass/fail call agrees with reference',
        3,
        'end-face',
        commonPractice('calling a bad face good puts it into a customer’s panel'),
      ),
    ],
    [LIVE_SCOPE],
  );

/** The zero, and that it stays: the same wherever a reference is set. */
export const referenceChecks = (c: Criteria, more: More = {}) => [
  c.check(
    'reference-set',
    'Reference set: 0.00 dB at each wavelength',
    4,
    commonPractice('after setting, the meter shows 0.00 dB'),
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

export const loss = (c: Criteria) =>
  c.loss(
    'loss',
    'Insertion loss measured',
    10,
    [1310, 1550],
    { fiberClass: 'OS2', lengthM: 2, matedPairs: 1, splices: 0, referenceMethod: 'single_cord' },
    SINGLE_MODE_INSIDE,
    house('measured after terminating: near connection only, the meter’s detector is wide'),
    { skill: 'terminate', critical: true },
  );

/** Set-up, reference and loss by a single launch cord: the finished end at the launch cord, the far end in the meter. */
export const singleCordLoss = (c: Criteria): Step[] => [
  step(
    'reference',
    'Source, meter and reference',
    'test',
    'instruments',
    'On, auto-off disabled, continuous wave, same wavelength on both, launch cord of the fiber’s core inspected and clean. Set to zero at each wavelength; from then on the cord stays on the source.',
    [
      c.check(
        'set-up',
        'Same wavelength, continuous wave, right cord',
        4,
        commonPractice('cords of the same core size as the link'),
        'wavelengths_differ modulated wrong_core_cord',
        { sampled: true },
      ),
      c.timed(
        'settle',
        'Instruments settled before the reference',
        1,
        atLeast('300', house('five minutes from switching on')),
        house('five minutes; the instrument’s own instructions go first'),
        { trainee: true },
      ),
      ...referenceChecks(c, { sampled: true }),
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
      loss(c),
      c.call(
        'trainee-verdict',
        'Trainee’s verdict agrees with the limit',
        4,
        'loss',
        commonPractice('judged against the limit of this link, not by feel'),
      ),
    ],
  ),
];
