import type { SpliceRow } from '@clear-mark/contract';

/** Places of a tray: one row of colours. */
export const TRAY = 12;

export interface Tray {
  readonly traineeId: string;
  readonly traineeName: string;
  /** In the order of their making, the latest tray of twelve. */
  readonly splices: readonly SpliceRow[];
}

/** The latest tray of each trainee, by name. */
export function traysOf(rows: readonly SpliceRow[]): readonly Tray[] {
  const byTrainee = new Map<string, SpliceRow[]>();
  for (const row of rows) {
    const list = byTrainee.get(row.traineeId);
    if (list) list.push(row);
    else byTrainee.set(row.traineeId, [row]);
  }
  return [...byTrainee.values()]
    .map((list) => ({
      traineeId: list[0]!.traineeId,
      traineeName: list[0]!.traineeName,
      // A tray that is full is left as it is; the next splice begins another.
      splices: list.slice(Math.floor((list.length - 1) / TRAY) * TRAY),
    }))
    .sort((a, b) => a.traineeName.localeCompare(b.traineeName));
}
