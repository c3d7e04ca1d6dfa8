import type { FiberMode } from '@clear-mark/core';
import type { SchoolTable, SchoolTableKind } from '@clear-mark/contract';

type Of<K extends SchoolTableKind> = Extract<SchoolTable, { kind: K }>;

/** The tables of a kind that are in use. */
export const tablesOf = <K extends SchoolTableKind>(all: readonly SchoolTable[] | null, kind: K): Of<K>[] =>
  (all ?? []).filter((t): t is Of<K> => t.kind === kind && !t.retired);

/** The loss tables in use for such fiber. */
export const lossTables = (all: readonly SchoolTable[] | null, fiber: FiberMode): Of<'loss'>[] =>
  tablesOf(all, 'loss').filter((t) => t.content.fiber === fiber);
