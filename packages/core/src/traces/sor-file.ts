import type { RecordOf } from './record.ts';
import type {
  END_TO_END_ROWS,
  EVENT_ROWS,
  FIXED_HEAD_ROWS,
  FIXED_TAIL_ROWS,
  GENERAL_ROWS,
  SUPPLIER_ROWS,
} from './sor-blocks.ts';

/** A block as it lies in the file, without its name; those that nobody here knows are kept so. */
export interface SorBlock {
  readonly name: string;
  /** As the map says it, such as 200. */
  readonly revision: number;
  readonly content: Uint8Array;
}

export type SorGeneral = RecordOf<typeof GENERAL_ROWS>;
export type SorSupplier = RecordOf<typeof SUPPLIER_ROWS>;
export type SorEvent = RecordOf<typeof EVENT_ROWS>;
export type SorEndToEnd = RecordOf<typeof END_TO_END_ROWS>;

/** How it was taken; one entry in each list a trace. */
export type SorFixed = RecordOf<typeof FIXED_HEAD_ROWS> &
  RecordOf<typeof FIXED_TAIL_ROWS> & {
    readonly pulsesNs: readonly number[];
    /** Time of 10,000 spacings, 100 ps. */
    readonly spacings: readonly number[];
    readonly points: readonly number[];
  };

/** The points of one trace: 0 is the strongest, each step 0.001 dB times `scale` / 1000, one-way. */
export interface SorPoints {
  readonly scale: number;
  readonly values: Uint16Array;
}

/** What a trace file says. */
export interface SorContent {
  readonly general: SorGeneral;
  readonly supplier: SorSupplier | null;
  readonly fixed: SorFixed;
  readonly events: readonly SorEvent[];
  readonly endToEnd: SorEndToEnd | null;
  readonly traces: readonly SorPoints[];
}

/** A file: what it says, and all of its blocks in order, those that are not understood too. */
export interface SorFile extends SorContent {
  readonly revision: 1 | 2;
  /** The map's own number, such as 200. */
  readonly mapRevision: number;
  readonly blocks: readonly SorBlock[];
}
