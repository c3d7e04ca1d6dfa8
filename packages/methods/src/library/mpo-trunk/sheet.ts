import type { MethodSheet } from '@clear-mark/core';
import { atMost, criteriaOf, step, stop } from '../../build.ts';
import { CHEMICALS, DEFER, LIGHT } from '../../common/cautions.ts';
import { referenceChecks } from '../../common/test-steps.ts';
import { MULTIMODE } from '../../loss-rules.ts';
import { commonPractice, house, standardFromMemory } from '../../sources.ts';
import { method } from '../method.ts';

function mpoTrunk(): MethodSheet {
  const c = criteriaOf('mpo-trunk');
  return method({
    name: 'mpo-trunk',
    title: 'MPO trunk: polarity walk and loss of each fiber',
    summary:
      'A 12-fiber multimode trunk of 31 m between two cassettes, walked port by port and read fiber by fiber. Four mated pairs lie between the cords: a duplex port and the multi-fiber connector at each end.',
    pieceKind: 'link',
    fiberClass: 'OM4',
    things: ['bench', 'scope', 'instrument', 'cord'],
    cautions: [LIGHT, CHEMICALS, DEFER],
    steps: [
      step(
        'ends',
        'Both ends inspected and cleaned',
        'inspect',
        'connector',
        'Source off. Whole row scanned; pins, key and type looked at together; dry first, then wet and dried at once, with a cleaner that reaches between the pins.',
        [
          c.check(
            'dark-fiber',
            'No light verified before microscope',
            4,
            commonPractice('a scope never goes on a connector that could be live'),
            'live_fiber_scoped',
            { stop: true },
          ),
          c.check(
            'row',
            'Whole row of both ends scanned and clean',
            4,
            commonPractice('dust at one side lifts the other'),
            'row_not_scanned mated_unseen',
            { critical: true },
          ),
          c.check(
            'pins-key',
            'Pins against no pins, key up or down as the trunk asks',
            4,
            commonPractice('modules carry the pins, cords none; two with pins, or none, do not mate'),
            'pins_not_checked',
            { critical: true },
          ),
        ],
        [stop('No microscope on a live fiber.')],
        'pin-and-key',
      ),
      step(
        'walk',
        'Polarity walked',
        'test',
        'instruments',
        'Red locator into near port 1, then 2, and on to 12; the partner says which far port lights. No light is written down as well.',
        [
          c.check(
            'no-look',
            'Nobody looked into a lit connector',
            4,
            commonPractice('the red fault locator is a laser as well'),
            'looked_into_light',
            { stop: true },
          ),
          c.map(
            'port-map',
            'Where each port came out',
            8,
            12,
            'A',
            standardFromMemory('TIA-568: type A straight, B reversed, C pairs crossed'),
            { critical: true, faults: ['wrong_port'] },
          ),
          c.check(
            'explained',
            'Trainee named what a wrong map means',
            3,
            commonPractice('trunk of another type, a cassette turned, two crossed, one broken'),
            'wrong_conclusion',
            { sampled: true },
          ),
        ],
        [stop('The fault locator is a laser: look from the side, cap unused ports.')],
        'trunk-types',
      ),
      step(
        'reference',
        'Reference by one cord',
        'test',
        'instruments',
        'Same wavelength on both, multimode cord on the mandrel. Source, cord, meter: zero. Then the cord comes off the meter only, and the receive cord joins at the far cassette. One reference for all twelve: setting it again for each wears and dirties the ports.',
        [
          c.check(
            'set-up',
            'Same wavelength, continuous wave, cords of the link’s core size',
            4,
            commonPractice('62.5 into 50 µm loses about 3 dB'),
            'wavelengths_differ modulated wrong_core_cord',
          ),
          c.check(
            'mandrel',
            'Launch cord round the mandrel, or mode-controlled',
            4,
            commonPractice('without it a link can fail falsely'),
            'mandrel_missing',
          ),
          ...referenceChecks(c, { critical: true }),
        ],
        [stop('Source on: invisible light at every open end.')],
      ),
      step(
        'read',
        'Loss of each fiber read',
        'test',
        'instruments',
        'Port by port, every plug cleaned before it is mated. Let each settle; save under the fiber’s number. A wide spread over the row is worth a look even inside the limit.',
        [
          c.loss(
            'loss',
            'Loss of each fiber',
            10,
            [850, 1300],
            { fiberClass: 'OM4', lengthM: 31, matedPairs: 4, splices: 0, referenceMethod: 'one_cord' },
            MULTIMODE,
            commonPractice('counted: four mated pairs and the trunk between them'),
            { critical: true, fibers: 12, conditionedBy: 'mandrel' },
          ),
          c.measure(
            'spread',
            'Loss range across fibers (max - min)',
            2,
            'dB',
            atMost('1.0', house('a row that differs by more has one bad joint'), '0'),
            house('the instructor looks at the outlier first'),
            { sampled: true, rangeOf: 'loss' },
          ),
        ],
      ),
      step(
        'judge',
        'Judged and recorded',
        'test',
        'instruments',
        'Pass or fail of the trunk against the limit of this link; the worst fiber counts.',
        [
          c.call(
            'trainee-verdict',
            'Trainee’s verdict agrees with the limit',
            4,
            'loss',
            commonPractice('one failing fiber fails the trunk'),
          ),
          c.check(
            'record',
            'Record complete: map, fibers, wavelengths, pins, reference, limit',
            4,
            commonPractice('keep the polarity’s documentation'),
            'record_incomplete',
          ),
          c.check('capped', 'Every port capped', 2, house('cap unused ports'), 'cap_off', { sampled: true }),
        ],
      ),
    ],
  });
}

export const MPO_TRUNK: MethodSheet = mpoTrunk();
