import type { MethodSheet } from '@clear-mark/core';
import { atLeast, criteriaOf, step } from '../../build.ts';
import { DEFER, LIGHT } from '../../common/cautions.ts';
import { house } from '../../sources.ts';
import { method } from '../method.ts';

const c = criteriaOf('blind-calls');

/** A series of faces called pass or fail without feedback; the figures are computed from the calls. */
export const BLIND_CALLS: MethodSheet = method({
  name: 'blind-calls',
  title: 'Blind calls of end faces',
  summary: 'Faces shown one after another, each called pass or fail; told from the reference at the end.',
  pieceKind: 'connector',
  things: [],
  cautions: [LIGHT, DEFER],
  steps: [
    step(
      'series',
      'The series called',
      'inspect',
      'instruments',
      'Calling a bad face good is worse than calling a good one bad: it goes into a panel.',
      [
        c.measure(
          'sensitivity',
          'Share of the bad faces called bad',
          6,
          '1',
          atLeast('0.9', house('nine of ten bad faces are caught')),
          house('nine of ten bad faces are caught'),
          { critical: true, trainee: true, required: true },
        ),
        c.measure(
          'specificity',
          'Share of the good faces called good',
          3,
          '1',
          atLeast('0.8', house('four of five good faces are left alone')),
          house('four of five good faces are left alone'),
          { trainee: true, required: true },
        ),
        c.measure(
          'weighted',
          'Agreement, misses weighed as the class decides',
          3,
          '1',
          atLeast('0.85', house('weight of the right calls among all')),
          house('weight of the right calls among all'),
          { trainee: true, required: true },
        ),
      ],
    ),
  ],
});
