import type { MethodSheet } from '@clear-mark/core';
import { criteriaOf } from '../../build.ts';
import { FIBER_CAUTIONS } from '../../common/cautions.ts';
import { cleaveLook, cleaving } from '../../common/cleave-steps.ts';
import { bareGlass, benchReady, clearUp } from '../../common/prepare-steps.ts';
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
      ...bareGlass(c, { how: 'Enough for the cleaver.', wipe: 'Lint-free wipe with alcohol.' }),
      ...cleaving(c, { lowerMm: '12.5', upperMm: '13.5', targetMm: '13', words: 'buffer edge at 13 mm' }),
      cleaveLook(
        c,
        'In the cleave scope, pointed at something white. A bad one: strip, clean, cleave again.',
        '1 degree for fusion splicing; 0.5 is good work',
      ),
      clearUp(c),
    ],
  });
}

export const BENCH_CLEAVE: MethodSheet = benchCleave();
