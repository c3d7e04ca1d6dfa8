import { drawCleave, randomCleaveScene, rngFrom } from '@clear-mark/sim';
import { answerOrders } from '../../workers/answer-orders.ts';
import { greyPng } from './grey-png.ts';
import type { SeedOrder, StandInPicture } from './measure-orders.ts';

answerOrders<SeedOrder, StandInPicture>(async ({ seed }, tell) => {
  const rng = rngFrom(seed);
  tell({ png: await greyPng(drawCleave(randomCleaveScene(rng), rng)) });
});
