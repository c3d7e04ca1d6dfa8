import { measureSlide } from '@clear-mark/core';
import { answerOrders } from '../../../workers/answer-orders.ts';
import type { SlideNews, SlideOrder } from './face-orders.ts';
import { readPicture } from '../../../pictures/read-picture.ts';

answerOrders<SlideOrder, SlideNews>(async ({ picture, divisionUm }, tell) => {
  const read = await readPicture(picture);
  if ('problem' in read) return tell({ problem: read.problem });
  tell({ found: measureSlide(read.grey, divisionUm) });
});
