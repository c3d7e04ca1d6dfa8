import { type ReadingAgreement, readingsAgree } from './agreement.ts';

/** One reading of a link: its place, as `partKey` writes it, and its loss in dB; null for no light. */
export interface LinkReadingAt {
  readonly part: string;
  readonly lossDb: number | null;
}

/** What became of one reading between two tests of the same link. */
export interface LinkChange {
  readonly part: string;
  readonly beforeDb: number | null;
  readonly afterDb: number | null;
  /** After less before, dB, and the most that two readings of a link that did not change differ by; null without light. */
  readonly agreement: ReadingAgreement | null;
  readonly change: 'same' | 'better' | 'worse' | 'light_lost' | 'light_found' | 'dark';
}

/**
 * A test of a link before something was done to it beside one after it, place by place; places that only one of them has are
 * left out. It changed where the two differ by more than sqrt(U1^2 + U2^2), as `readingsAgree` says; U in dB.
 * Example: 0.92 dB before and 0.41 dB after cleaning, U 0.15 dB each: better by 0.51 dB.
 */
export function linkChanges(
  before: readonly LinkReadingAt[],
  after: readonly LinkReadingAt[],
  beforeU: number,
  afterU: number,
): readonly LinkChange[] {
  return before.flatMap<LinkChange>(({ part, lossDb: beforeDb }) => {
    const later = after.find((r) => r.part === part);
    if (!later) return [];
    const afterDb = later.lossDb;
    const both = { part, beforeDb, afterDb, agreement: null };
    if (beforeDb === null || afterDb === null) {
      const lit = beforeDb === null ? 'light_found' : 'light_lost';
      return [{ ...both, change: beforeDb === afterDb ? ('dark' as const) : lit }];
    }
    const agreement = readingsAgree(afterDb, beforeDb, afterU, beforeU);
    const moved = agreement.differenceDb < 0 ? 'better' : 'worse';
    return [{ ...both, agreement, change: agreement.agree ? ('same' as const) : moved }];
  });
}
