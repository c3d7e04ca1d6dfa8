import type { Source, Step } from '@clear-mark/core';
import { type Criteria, type More, step } from '../build.ts';
import { cleaveLook } from '../common/cleave-steps.ts';
import { recordAndClearUp } from '../common/prepare-steps.ts';
import { inspecting, singleCordLoss } from '../common/test-steps.ts';
import { commonPractice } from '../sources.ts';

export const THINGS = ['bench', 'cleaver', 'scope', 'instrument', 'cord'] as const;

/** What every pre-polished connector with a mechanical splice shares after its own locking. */
export const afterLock = (c: Criteria, inspectHow?: string): Step[] => [
  inspecting(c, inspectHow),
  ...singleCordLoss(c),
  recordAndClearUp(c),
];

/** The look at a cleave that a class may add where nobody does it by this kind. */
export const lookByChoice = (c: Criteria): Step =>
  cleaveLook(
    c,
    'In the cleave scope, pointed at something white. A bad one: strip again, clean again, cleave again.',
    '1 degree for a pre-polished mechanical-splice connector',
  );

interface Insert {
  readonly how: string;
  readonly label: string;
  readonly faults?: string;
  readonly source?: Source;
  readonly more?: More;
}

/** The fiber into the connector until it meets the stub. */
export const insert = (
  c: Criteria,
  { how, label, faults, source, more }: Insert,
  others: Step['criteria'] = [],
) =>
  step('insert', 'Fiber in to the stub', 'terminate', 'connector', how, [
    c.check(
      'bow',
      label,
      6,
      source ?? commonPractice('in until contact, then a slight bow, kept'),
      faults ?? 'no_bow bow_early forced_in bow_let_go',
      {
        critical: true,
        hint: 'No bow: cleave too short, or not home. Early bow: cleave too long, or something in the guide.',
        ...more,
      },
    ),
    ...others,
    c.check(
      'clean-guide',
      'Tip straight in, not dragged',
      3,
      commonPractice('the tip is not dragged through the guide'),
      'tip_dragged',
      { sampled: true },
    ),
  ]);
