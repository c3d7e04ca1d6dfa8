import type { CameraCard, CleaveReading, EndReading, SpliceReading } from '@clear-mark/core';
import type { PictureProblem } from '../../pictures/picture-problems.ts';
import type { WorkerClient } from '../../workers/worker-client.ts';

/** What a worker says of a picture: its size and what was found in it, or why it cannot be read. */
export type MeasureNews<R> =
  | { readonly width: number; readonly height: number; readonly reading: R }
  | { readonly problem: PictureProblem };

/** An order to measure the ends in a picture from the side. */
export interface CleaveOrder {
  readonly picture: Blob;
}
export type CleaveNews = MeasureNews<CleaveReading>;
/** An order to measure a prepared end in a photograph of it on its card. */
export interface EndOrder {
  readonly picture: Blob;
  readonly card: CameraCard;
}
export type EndNews = MeasureNews<EndReading>;

/** An order to measure a joint; its column where somebody set it, pixels. */
export interface SpliceOrder {
  readonly picture: Blob;
  readonly jointAt: number | null;
}
export type SpliceNews = MeasureNews<SpliceReading>;

/** An order for what a simulated cleave scope, or a simulated splicer, shows. */
export interface SeedOrder {
  readonly seed: number;
}
/** An order for a simulated photograph of an end on a card. */
export interface EndStandInOrder {
  readonly seed: number;
  readonly card: CameraCard;
}
export interface StandInPicture {
  readonly png: Blob;
}

/** The one answer of a worker to an order. */
export const answerOf = <O, N>(worker: WorkerClient<O, N>, order: O): Promise<N> =>
  new Promise((resolve, reject) => worker.ask(order, resolve, (words) => reject(new Error(words))));
