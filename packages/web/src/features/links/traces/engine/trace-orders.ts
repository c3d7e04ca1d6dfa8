import type { ListedEvent, Trace, TraceAnalysis, TraceGroups } from '@clear-mark/core';

/** Opens a trace file; a blind one is drawn and not analysed. */
export interface OpenOrder {
  readonly order: 'open';
  readonly bytes: ArrayBuffer;
  readonly blind: boolean;
}
/** Draws traces of simulated plants, half of them with an event over its limit. */
export interface MakeOrder {
  readonly order: 'make';
  readonly count: number;
  readonly seed: number;
}
export type TraceOrder = OpenOrder | MakeOrder;

/** A trace of a file, ready to be drawn. */
export interface OpenedTrace {
  readonly trace: Trace;
  readonly groups: TraceGroups;
  readonly analysis: TraceAnalysis | null;
}
export type TraceNews =
  | {
      readonly news: 'opened';
      readonly traces: readonly OpenedTrace[];
      readonly table: readonly ListedEvent[];
      readonly marksM: readonly number[];
    }
  | { readonly news: 'made'; readonly bytes: Uint8Array<ArrayBuffer> }
  | { readonly news: 'problem'; readonly words: string };
