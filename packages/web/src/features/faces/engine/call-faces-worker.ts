import { faceCriteria } from '@clear-mark/core';
import { facesForCalls, type ScopeFace } from '@clear-mark/sim';
import { answerOrders } from '../../../workers/answer-orders.ts';
import type { CallFacesOrder } from './face-orders.ts';

answerOrders<CallFacesOrder, readonly ScopeFace[]>(({ first, count }, tell) => {
  tell(facesForCalls(first, count, faceCriteria('sm-pc')!).map(({ face }) => face));
  return Promise.resolve();
});
