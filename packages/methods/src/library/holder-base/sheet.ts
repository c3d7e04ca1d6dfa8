import type { MethodSheet } from '@clear-mark/core';
import { criteriaOf, step } from '../../build.ts';
import { bareGlass, benchReady, cleaving, kit, partsOn } from '../../common/steps.ts';
import { commonPractice } from '../../sources.ts';
import { method } from '../method.ts';
import { THINGS, CAUTIONS, afterLock, bootLast } from '../prepolished-parts.ts';

function fiberHolder(): MethodSheet {
  const c = criteriaOf('holder-base');
  return method({
    name: 'holder-base',
    title: 'Pre-polished SC on 900 or 250 µm, fiber holder on an assembly base',
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
        [],
        'bow',
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

export const HOLDER_BASE: MethodSheet = fiberHolder();
