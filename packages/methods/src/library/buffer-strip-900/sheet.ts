import type { MethodSheet } from '@clear-mark/core';
import { criteriaOf, step } from '../../build.ts';
import { FIBER_CAUTIONS } from '../../common/cautions.ts';
import { bareGlass, benchReady, clearUp } from '../../common/steps.ts';
import { commonPractice } from '../../sources.ts';
import { method } from '../method.ts';

function bufferStrip(): MethodSheet {
  const c = criteriaOf('buffer-strip-900');
  return method({
    name: 'buffer-strip-900',
    title: '900 µm buffer stripped, tight or semi-tight told first',
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
      ...bareGlass(c, { mm: '25', tolerance: '1', words: 'about 25 mm for a 900 or 250 µm fiber' }),
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

export const BUFFER_STRIP_900: MethodSheet = bufferStrip();
