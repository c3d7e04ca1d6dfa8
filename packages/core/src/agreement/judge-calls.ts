import { DomainError } from '../domain-error.ts';
import { type Call } from '../scoring/index.ts';
import { type Rate, wilsonRate } from '../stats/index.ts';
import { cohenKappa, type Kappa } from './cohen-kappa.ts';

/** One face of a series: what it is, what was said of it, and what is wrong with it. */
export interface JudgedCall {
  readonly reference: Call;
  /** Null where no call was made. */
  readonly said: Call | null;
  readonly kinds: readonly string[];
  readonly ms: number | null;
}
export interface CallsResult {
  readonly n: number;
  readonly unanswered: number;
  /** Bad faces called good, good ones called bad. */
  readonly misses: number;
  readonly falseAlarms: number;
  /** Bad faces called bad; good faces called good. */
  readonly sensitivity: Rate;
  readonly specificity: Rate;
  readonly kappa: Kappa;
  /** 1 less the weight of the wrong calls over the weight of all wrong: a miss weighs `missWeight` false alarms. */
  readonly weighted: number | null;
  /** For each kind of fault on bad faces: how many faces had it and how many of those were called good. */
  readonly byKind: readonly { readonly kind: string; readonly faces: number; readonly missed: number }[];
  readonly medianMs: number | null;
}

/**
 * A series of calls judged against its reference: rates with 95 % Wilson intervals, Cohen's kappa, the weighted agreement
 * of the policy. A face without a call counts in none of them (Wilson 1927; Cohen 1960). Error: `agreement.bad_weight` for a weight under 1.
 * Example: of 10 bad faces 9 called bad and of 10 good ones 8 called good gives 0.9, 0.8 and kappa 0.7.
 */
export function judgeCalls(calls: readonly JudgedCall[], missWeight: number): CallsResult {
  if (!(missWeight >= 1)) throw new DomainError('agreement.bad_weight', { weight: missWeight });
  const answered = calls.filter((c) => c.said !== null);
  const count = (reference: Call, said: Call): number =>
    answered.filter((c) => c.reference === reference && c.said === said).length;
  const hits = count('fail', 'fail');
  const misses = count('fail', 'pass');
  const good = count('pass', 'pass');
  const falseAlarms = count('pass', 'fail');
  const all = missWeight * (hits + misses) + good + falseAlarms;
  const times = answered.flatMap((c) => (c.ms === null ? [] : [c.ms])).sort((a, b) => a - b);
  const kinds = [...new Set(calls.flatMap((c) => (c.reference === 'fail' ? c.kinds : [])))].sort();
  return {
    n: answered.length,
    unanswered: calls.length - answered.length,
    misses,
    falseAlarms,
    sensitivity: wilsonRate(hits, hits + misses),
    specificity: wilsonRate(good, good + falseAlarms),
    kappa: cohenKappa([
      [good, falseAlarms],
      [misses, hits],
    ]),
    weighted: all === 0 ? null : 1 - (missWeight * misses + falseAlarms) / all,
    byKind: kinds.map((kind) => {
      const with_ = answered.filter((c) => c.reference === 'fail' && c.kinds.includes(kind));
      return { kind, faces: with_.length, missed: with_.filter((c) => c.said === 'pass').length };
    }),
    medianMs: times.length === 0 ? null : times[times.length >> 1]!,
  };
}

/**
 * Agreement of two people over the faces that both called, as `cohenKappa`. Example: the same calls of both are kappa 1 where
 * good and bad were called.
 */
export function agreementOf(
  one: readonly (Call | null)[],
  other: readonly (Call | null)[],
): { readonly n: number; readonly same: number; readonly kappa: Kappa } {
  const table = [
    [0, 0],
    [0, 0],
  ];
  one.forEach((a, i) => {
    const b = other[i] ?? null;
    if (a !== null && b !== null) table[a === 'pass' ? 0 : 1]![b === 'pass' ? 0 : 1]! += 1;
  });
  const n = table.flat().reduce((x, y) => x + y, 0);
  return { n, same: table[0]![0]! + table[1]![1]!, kappa: cohenKappa(table) };
}
