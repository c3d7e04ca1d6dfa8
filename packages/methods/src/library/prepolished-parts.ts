import type { Step } from '@clear-mark/core';
import { step, type Criteria } from '../build.ts';
import { FIBER_CAUTIONS, LIGHT } from '../common/cautions.ts';
import { around, clearUp, inspecting, singleCordLoss } from '../common/steps.ts';
import { commonPractice } from '../sources.ts';

export const THINGS = ['bench', 'cleaver', 'scope', 'instrument', 'cord'] as const;

export const CAUTIONS = [...FIBER_CAUTIONS.slice(0, 1), LIGHT, ...FIBER_CAUTIONS.slice(1)];

/** What every pre-polished connector with a mechanical splice shares after its own locking. */
export const afterLock = (c: Criteria): Step[] => [inspecting(c), ...singleCordLoss(c), clearUp(c)];

export const jacket = (c: Criteria, mm: string, words: string): Step =>
  step(
    'jacket',
    'Jacket off',
    'strip',
    'jacket',
    'Marked at the card, in small pieces, square edge, yarn whole.',
    [
      c.measure('jacket-length', 'Jacket removed', 4, 'mm', around(mm, '2'), commonPractice(words)),
      c.check(
        'jacket-edge',
        'Edge square, yarn whole, no nick in the buffer',
        4,
        commonPractice('no nick in the layer below'),
        'ragged_edge yarn_cut buffer_nicked',
      ),
    ],
  );

export const bow = (c: Criteria, how: string): Step =>
  step('insert', 'Fiber in to the stub', 'terminate', 'connector', how, [
    c.check(
      'bow',
      'At the stub, slight bow formed and kept',
      6,
      commonPractice('stop at the stub, slight bow, keep it pushed'),
      'no_bow bow_early forced_in bow_let_go',
      {
        critical: true,
        hint: 'No bow: cleave too short, or not home. Early bow: cleave too long, or something in the guide.',
      },
    ),
    c.check(
      'clean-guide',
      'Tip not dragged through the guide',
      3,
      commonPractice('never drag the tip through a dirty guide'),
      'tip_dragged',
    ),
  ]);

export const bootLast = (c: Criteria): Step =>
  step(
    'boot',
    'Boot on, by the housing',
    'terminate',
    'connector',
    'Hold the housing: pulling the fiber opens a gap in the splice and loss jumps.',
    [
      c.check(
        'fiber-not-pulled',
        'Boot on by the housing, fiber not pulled',
        4,
        commonPractice('pulling the fiber opens a gap in the splice'),
        'fiber_pulled buffer_bent',
      ),
    ],
  );
