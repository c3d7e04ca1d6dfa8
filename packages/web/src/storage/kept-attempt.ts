import type { OpenAttempt } from '@clear-mark/contract';

/** An open attempt as this device keeps it. */
export interface KeptAttempt extends OpenAttempt {
  /** The last of 1, 2, 3, ... that is known without one missing before it. */
  readonly lastSeq: number;
  /** Ids, 36 characters each, of entries that were seen and let go of: they cannot count any more. */
  readonly buried: string;
  /** Something that was let go of may count again: all of it is to be asked for. */
  readonly incomplete: boolean;
}
