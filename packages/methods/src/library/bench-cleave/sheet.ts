import type { MethodSheet } from '@clear-mark/core';
import { criteriaOf } from '../../build.ts';
import { FIBER_CAUTIONS } from '../../common/cautions.ts';
import { bareGlass, benchReady, cleaving, clearUp } from '../../common/steps.ts';
import { method } from '../method.ts';

function benchCleave(): MethodSheet {
  const c = criteriaOf('bench-cleave');
  return method({
    name: 'bench-cleave',
    title: 'Bench cleave with inspection',
    summary:
      'A tight-buffered single-mode fiber cleaved at 13 mm for fusion splicing, and looked at before it goes anywhere. 0.5 degrees is good work.',
    pieceKind: 'splice',
    things: ['bench', 'cleaver', 'scope'],
    cautions: FIBER_CAUTIONS,
    steps: [
      benchReady(c),
      ...bareGlass(c, null),
      ...cleaving(c, {
        lowerMm: '12.5',
        upperMm: '13.5',
        targetMm: '13',
        lengthWords: 'buffer edge at 13 mm for a splice of tight-buffered single-mode',
        angleDeg: '1.0',
        inspected: true,
      }),
      clearUp(c),
    ],
  });
}

export const BENCH_CLEAVE: MethodSheet = benchCleave();
