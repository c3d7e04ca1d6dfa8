import { measureCleave } from '@clear-mark/core';
import { readPicture } from '../../pictures/read-picture.ts';
import { answerOrders } from '../../workers/answer-orders.ts';
import type { CleaveNews, CleaveOrder } from './measure-orders.ts';

answerOrders<CleaveOrder, CleaveNews>(async ({ picture }, tell) => {
  const read = await readPicture(picture);
  if ('problem' in read) return tell({ problem: read.problem });
  const { width, height } = read.grey;
  tell({ width, height, reading: measureCleave(read.grey) });
});
