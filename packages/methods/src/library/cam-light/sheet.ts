import type { MethodSheet } from '@clear-mark/core';
import { atMost, criteriaOf, step, stop } from '../../build.ts';
import { LIVE_FIBER_CAUTIONS } from '../../common/cautions.ts';
import { cleaving } from '../../common/cleave-steps.ts';
import { bareGlass, benchReady, kit } from '../../common/prepare-steps.ts';
import { commonPractice, house } from '../../sources.ts';
import { method } from '../method.ts';
import { afterLock, insert, lookByChoice, THINGS } from '../prepolished-parts.ts';

function camLight(): MethodSheet {
  const c = criteriaOf('cam-light');
  return method({
    name: 'cam-light',
    title: 'Pre-polished SC, LC or ST-style, cam tool with go/no-go light',
    summary:
      'The cam locks, the light tells, the knob finishes. After green no reset until the connector is out. Cable, strip and cleave lengths are ours here: go by the connector’s instructions.',
    pieceKind: 'connector',
    things: THINGS,
    cautions: LIVE_FIBER_CAUTIONS,
    look: lookByChoice(c),
    steps: [
      benchReady(c),
      kit(
        c,
        'Connector seated in the tool, LC and ST-style with the load adapter. A flashing light: nothing loaded. Boot and shroud on the fiber.',
      ),
      step(
        'seat',
        'Connector seated',
        'terminate',
        'connector',
        'LC and ST-style with the load adapter. Flashing light: nothing loaded.',
        [
          c.check(
            'seated',
            'Connector seated, adapter where the kind needs one',
            4,
            commonPractice('LC and ST-style with load adapter'),
            'not_seated adapter_missing',
          ),
        ],
      ),
      ...bareGlass(c, {
        how: 'By the connector’s card.',
        wipe: 'Lint-free wipe with alcohol.',
      }),
      ...cleaving(c, {
        lowerMm: '7.5',
        upperMm: '8.5',
        targetMm: '8',
        words: 'by the connector’s card; 8 mm here',
        how: 'Buffer edge on the length. The fiber stays in the cleaver until the tool is ready for it.',
      }),
      insert(
        c,
        {
          how: 'Taken from the cleaver only now. Into the lead-in, slight pressure, positive stop; more pressure, slight bend, hold.',
          label: 'Positive stop, slight bend held',
        },
        [
          c.measure(
            'mark-gap',
            'Gap, buffer mark to lead-in',
            3,
            'mm',
            atMost('1', commonPractice('marks within 1 mm of the lead-in'), '0'),
            commonPractice('marks within 1 mm of the lead-in'),
          ),
          c.check(
            'kept',
            'Fiber left in the cleaver until needed',
            2,
            commonPractice('taken from the cleaver only now'),
            'laid_down face_brushed',
            { sampled: true },
          ),
        ],
      ),
      step(
        'cam',
        'Cam, light, knob',
        'terminate',
        'connector',
        'Cam button until green. Red: reset, out, reseat, cam. Red again: out, cleave or insert anew. Green: knob 180 degrees either way, slight resistance is normal. No reset until the connector is out. Lid open, coupler back, load button lightly squeezed, straight up.',
        [
          c.check(
            'green',
            'Light green',
            6,
            commonPractice('red twice: out, cleave or insert anew'),
            'light_red',
            { critical: true },
          ),
          c.check(
            'half-turn',
            'Knob turned 180 degrees',
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
          c.check(
            'straight-out',
            'Lifted straight up',
            2,
            commonPractice('load button lightly squeezed, straight up'),
            'lifted_askew',
            { sampled: true },
          ),
        ],
        [stop('The light of the tool is a laser too: never look into the connector.')],
      ),
      step(
        'finish',
        'Boot and housing',
        'terminate',
        'connector',
        'SC: cap, boot up to the cam, about 1 mm left between cam and cap; date code to the shroud’s key, click, moves freely. LC: adapter off, cap, trigger latched, boot. ST-style: adapter off, cap, boot.',
        [
          c.check(
            'fiber-not-pulled',
            'Boot slid up, fiber not pulled',
            4,
            commonPractice('boot slid up after the removal'),
            'fiber_pulled buffer_bent',
            { sampled: true },
          ),
          c.check(
            'shroud',
            'SC: date code to the shroud’s key, clicks, moves freely',
            3,
            commonPractice('date code to the shroud’s key'),
            'housing_turned not_snapped',
            { sampled: true },
          ),
          c.check(
            'tool-reset',
            'Tool reset for the next',
            1,
            house('the next one finds it ready'),
            'not_reset',
            { sampled: true },
          ),
        ],
      ),
      ...afterLock(c),
    ],
  });
}

export const CAM_LIGHT: MethodSheet = camLight();
