import type { MethodSheet } from '@clear-mark/core';
import { atMost, criteriaOf, step, stop } from '../../build.ts';
import { bareGlass, benchReady, cleaving, kit, partsOn } from '../../common/steps.ts';
import { commonPractice } from '../../sources.ts';
import { method } from '../method.ts';
import { THINGS, CAUTIONS, afterLock, bow, bootLast } from '../prepolished-parts.ts';

function camLight(): MethodSheet {
  const c = criteriaOf('cam-light');
  return method({
    name: 'cam-light',
    title: 'Pre-polished LC on 900 µm, cam tool with go/no-go light',
    summary:
      'The cam locks, the light tells, the crimp knob finishes. After green no reset until the connector is out.',
    pieceKind: 'connector',
    things: THINGS,
    cautions: CAUTIONS,
    steps: [
      benchReady(c),
      kit(c, 'Tool ready and reset, connector in, small boot for 900 µm.'),
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

export const CAM_LIGHT: MethodSheet = camLight();
