import { measureSplice } from '@clear-mark/core';
import { readPicture } from '../../pictures/read-picture.ts';
import { answerOrders } from '../../workers/answer-orders.ts';
import type { SpliceNews, SpliceOrder } from './measure-orders.ts';

answerOrders<SpliceOrder, SpliceNews>(async ({ picture, jointAt }, tell) => {
  const read = await readPicture(picture);
  if ('problem' in read) return tell({ problem: read.problem });
  const { width, height } = read.grey;
  tell({ width, height, reading: measureSplice(read.grey, jointAt === null ? {} : { jointAt }) });
});
