import type { MethodSheet } from '@clear-mark/core';
import { criteriaOf, step } from '../../build.ts';
import { LIVE_FIBER_CAUTIONS } from '../../common/cautions.ts';
import { cleaving } from '../../common/cleave-steps.ts';
import { around, bareGlass, benchReady, kit } from '../../common/prepare-steps.ts';
import { commonPractice } from '../../sources.ts';
import { method } from '../method.ts';
import { afterLock, lookByChoice, THINGS } from '../prepolished-parts.ts';

function fiberHolder(): MethodSheet {
  const c = criteriaOf('holder-base');
  return method({
    name: 'holder-base',
    title: 'Pre-polished SC on 900 or 250 µm, fiber holder on an assembly base',
    summary:
      'The bow of the fiber tells everything: it starts at the mark, and is seen again at the end. The boot is part of the connector.',
    pieceKind: 'connector',
    things: THINGS,
    cautions: LIVE_FIBER_CAUTIONS,
    look: lookByChoice(c),
    steps: [
      benchReady(c),
      kit(
        c,
        'Tools wiped. Both caps off. Tool button open; connector in the coupling, its button up, click. Holder’s covers and back clamp open, funnel forward.',
        'Connector in the coupling, both caps off, holder open',
      ),
      step(
        'try',
        'Buffer type identified',
        'strip',
        'buffer',
        '900 µm: gripped, scored, pulled by the fingers. Slides easily: semi-tight, stripped in the holder, with its own groove. 250 µm has no test.',
        [
          c.check(
            'told',
            'Buffer type identified (tight / semi-tight)',
            4,
            commonPractice('it picks the groove; the clamping force differs'),
            'kind_mistaken not_tried',
            { critical: true },
          ),
        ],
      ),
      ...bareGlass(c, {
        how: 'About 25 mm (1 in) off.',
        length: { band: around('25', '2'), source: commonPractice('about 25 mm'), required: false },
        wipe: 'Lint-free wipe, alcohol of 99 %.',
      }),
      ...cleaving(c, {
        lowerMm: '7.5',
        upperMm: '8.5',
        targetMm: '8',
        words: '8 mm, checked on the base’s marks',
      }),
      step(
        'base',
        'In the holder',
        'terminate',
        'connector',
        'Fiber in its groove (250 µm with tight; semi-tight its own), natural bow down, past the funnel; funnel and middle covers shut, funnel still forward; drawn back flush with it; back clamp shut.',
        [
          c.check(
            'groove',
            'Right groove of the holder',
            3,
            commonPractice('250 µm with tight; semi-tight its own'),
            'wrong_groove',
          ),
          c.check(
            'bow-down',
            'Natural bow down, end flush with the funnel',
            3,
            commonPractice('natural bow down, drawn back flush'),
            'bow_up not_flush',
            { sampled: true },
          ),
        ],
      ),
      step(
        'enter',
        'Bow starts at the mark',
        'terminate',
        'connector',
        'Slow slide: the bow starts when the front of the middle clamp meets the mark. None: strip, clean, cleave anew. Early: back, still in the connector, until it is gone, once more; early again: anew. Fully home: bow seen, no gap between holder and base.',
        [
          c.check(
            'bow-at-mark',
            'Bow started at the mark',
            6,
            commonPractice('front of the middle clamp at the mark'),
            'no_bow bow_early bow_early_twice',
            { critical: true },
          ),
          c.check(
            'right-remedy',
            'Right remedy when it did not',
            3,
            commonPractice('none: anew; early: back and once more'),
            'wrong_remedy',
            { sampled: true },
          ),
          c.check(
            'no-gap',
            'Fully home: bow seen, no gap holder to base',
            4,
            commonPractice('bow seen again, no gap'),
            'holder_gap bow_let_go',
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
        'Button firmly (a click may sound). Lever squeezed, ears pushed: the buffer is clamped.',
        [
          c.check(
            'button',
            'Button, then lever, then ears',
            4,
            commonPractice('button, lever squeezed, ears pushed'),
            'wrong_order ears_not_pushed',
            { critical: true },
          ),
        ],
      ),
      ...afterLock(
        c,
        'Covers up, holder out. The test in the coupling is optional. Out, cleaned, then installed or capped. Both ends off source and meter before the look.',
      ),
    ],
  });
}

export const HOLDER_BASE: MethodSheet = fiberHolder();
