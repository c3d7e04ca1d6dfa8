import type { MethodSheet } from '@clear-mark/core';
import { criteriaOf, step } from '../../build.ts';
import { FIBER_CAUTIONS } from '../../common/cautions.ts';
import { around, bareGlass, benchReady, clearUp } from '../../common/prepare-steps.ts';
import { commonPractice } from '../../sources.ts';
import { method } from '../method.ts';

function bufferStrip(): MethodSheet {
  const c = criteriaOf('buffer-strip-900');
  return method({
    name: 'buffer-strip-900',
    title: '900 µm buffer stripped, tight or semi-tight identified first',
    summary:
      'The buffer is tried between the fingers, held by what it is, and taken off without a nick. 250 µm has no test.',
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
        'Stripper free of debris. Buffer gripped, scored, pulled by the fingers: slides easily: semi-tight. Semi-tight: into the fiber holder, end protruding at the rear, opposite the funnel, rear clamp shut; stripped; out.',
        [
          c.check(
            'told',
            'Buffer type identified (tight / semi-tight)',
            4,
            commonPractice('it picks the groove'),
            'kind_mistaken not_tried',
            { critical: true },
          ),
          c.check(
            'held',
            'Semi-tight stripped in the holder, end at the rear',
            3,
            commonPractice('in the hand it stretches'),
            'holder_not_used wrong_groove',
            { sampled: true },
          ),
        ],
      ),
      ...bareGlass(c, {
        how: 'About 25 mm (1 in) off.',
        length: { band: around('25', '2'), source: commonPractice('about 25 mm, 1 in'), required: true },
        wipe: 'Lint-free wipe, alcohol.',
      }),
      clearUp(c),
    ],
  });
}

export const BUFFER_STRIP_900: MethodSheet = bufferStrip();
