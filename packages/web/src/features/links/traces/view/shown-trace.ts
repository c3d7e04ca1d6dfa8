import type { OpenedTrace } from '../engine/trace-orders.ts';

/** A trace with what it is called where several are shown. */
export interface ShownTrace extends OpenedTrace {
  readonly key: string;
  readonly label: string;
}
