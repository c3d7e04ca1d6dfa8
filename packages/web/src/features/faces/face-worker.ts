import { faceCriteria, measureFace, type MeasuredFace } from '@clear-mark/core';

export interface FaceOrder {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
  readonly criteria: string;
}
export type FaceAnswer = { readonly found: MeasuredFace } | { readonly failed: string };

self.onmessage = ({ data: order }: MessageEvent<FaceOrder>) => {
  let answer: FaceAnswer;
  try {
    answer = { found: measureFace(order, faceCriteria(order.criteria)!) };
  } catch (error) {
    answer = { failed: String(error) };
  }
  self.postMessage(answer);
};
