import { changesThatFit, replan, searchPlan, usualTries } from '@clear-mark/core';
import { rngFrom } from '@clear-mark/sim';
import { answerOrders } from '../../../workers/answer-orders.ts';
import type { PlanNews, PlanOrder } from './plan-order.ts';

/** The same day is planned alike each time. */
const SEED = 1;
/** Tries for each change that could make everything fit: enough to tell whether it does. */
const CHANGE_TRIES = 60;

answerOrders<PlanOrder, PlanNews>((order, tell) => {
  const began = performance.now();
  const random = rngFrom(SEED);
  const tries = usualTries(order.day.pieces.length);
  if (order.kind === 'changes') {
    tell({ news: 'changes', tried: changesThatFit(order.day, order.plan, { tries: CHANGE_TRIES, random }) });
  } else if (order.kind === 'replan') {
    const { plan, moved } = replan(order.day, order.before, { tries: CHANGE_TRIES, random });
    tell({ news: 'plan', plan, moved, ms: performance.now() - began });
  } else {
    const plan = searchPlan(order.day, {
      tries,
      random,
      progress: (done, best) => tell({ news: 'progress', done, best }),
    });
    tell({ news: 'plan', plan, moved: [], ms: performance.now() - began });
  }
  return Promise.resolve();
});
