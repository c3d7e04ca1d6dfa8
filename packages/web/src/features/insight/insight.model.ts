import type { LossSample, Results, StandingCell } from '@clear-mark/contract';

type RateValue = StandingCell['rate'];

export interface Need {
  readonly traineeId: string;
  readonly traineeName: string;
  readonly cell: StandingCell;
}

const URGENCY: Readonly<Record<string, number>> = { retrain: 0, lapsed: 1, watch: 2 };

/** Who needs what again: retrain first, then lapsed and watch; the lower rate first within each. */
export function needs(results: Results): Need[] {
  return results.standings
    .flatMap((row) =>
      row.cells
        .filter((cell) => cell.standing in URGENCY)
        .map((cell) => ({ traineeId: row.traineeId, traineeName: row.traineeName, cell })),
    )
    .sort(
      (a, b) =>
        URGENCY[a.cell.standing]! - URGENCY[b.cell.standing]! ||
        shareOf(a.cell.rate) - shareOf(b.cell.rate) ||
        a.traineeName.localeCompare(b.traineeName),
    );
}

const shareOf = (rate: RateValue): number => (rate.kind === 'none' ? 1 : rate.share);

export interface FirstPass {
  readonly label: string;
  readonly count: number;
}

/** How many trainees passed a skill first at which attempt; those who have not passed are counted as such. */
export function firstPasses(summary: Results['whole']): FirstPass[] {
  const few = summary.firstPassAt.slice(0, 4).map((count, i) => ({ label: `${i + 1}.`, count }));
  const later = summary.firstPassAt.slice(4).reduce((sum, count) => sum + count, 0);
  const rows = few.filter((row) => row.count > 0);
  if (later > 0) rows.push({ label: 'later', count: later });
  if (summary.notYetPassed > 0) rows.push({ label: 'not yet', count: summary.notYetPassed });
  return rows;
}

export interface Bar {
  readonly from: number;
  readonly to: number;
  readonly count: number;
}

/** Bars of a loss sample with their edges, ends of the drawing reaching over the limit. */
export function barsOf(sample: LossSample): Bar[] {
  const { from, width, counts } = sample.histogram;
  const at = (i: number): number => Math.round((from + i * width) * 1e6) / 1e6;
  return counts.map((count, i) => ({ from: at(i), to: at(i + 1), count }));
}
