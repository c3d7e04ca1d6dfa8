import { measureEnd } from '@clear-mark/core';
import { readColourPicture } from '../../pictures/read-picture.ts';
import { answerOrders } from '../../workers/answer-orders.ts';
import type { EndNews, EndOrder } from './measure-orders.ts';

answerOrders<EndOrder, EndNews>(async ({ picture, card }, tell) => {
  const read = await readColourPicture(picture);
  if ('problem' in read) return tell({ problem: read.problem });
  const { width, height } = read.colour;
  tell({ width, height, reading: measureEnd(read.colour, card) });
});
