import type { LossSeries } from '@clear-mark/contract';

export type SeriesPoint = LossSeries['points'][number];

export interface ChangeMark {
  /** Place of the first point after the change. */
  readonly at: number;
  readonly label: string;
}

/** What changes at more than every sixth point is the round of the class and no event. */
const OFTEN = 6;
const MOST_MARKS = 8;

/** Changes worth a mark: those of kinds that change seldom (a new film, another batch), the newest of them, and later versions of a method. */
export function changeMarks(points: readonly SeriesPoint[]): ChangeMark[] {
  const times = new Map<string, number>();
  for (const p of points) for (const c of p.changed) times.set(c.kind, (times.get(c.kind) ?? 0) + 1);
  const marks = points.flatMap((p, at) => {
    const seldom = p.changed.filter((c) => times.get(c.kind)! * OFTEN <= points.length);
    return seldom.length === 0 ? [] : [{ at, label: seldom.map((c) => c.label).join(', ') }];
  });
  const versions = points.flatMap((p, at) =>
    p.newVersion ? [{ at, label: `${p.newVersion.title}, version ${p.newVersion.version}` }] : [],
  );
  return [...marks.slice(-MOST_MARKS), ...versions].sort((a, b) => a.at - b.at);
}

/** How a point is told apart: out of the limits, at the end of a run, or neither; only where it is worse than the mean. */
export type PointLook = 'out' | 'run' | 'plain';
export function lookOf(p: SeriesPoint, { chart, measure }: Pick<LossSeries, 'chart' | 'measure'>): PointLook {
  const over = chart ? p.db - chart.centre : 0;
  if (measure === 'loss' ? over <= 0 : over >= 0) return 'plain';
  return p.out ? 'out' : p.rules.length > 0 ? 'run' : 'plain';
}

/** The upper bound in words, or how many readings it takes. */
export function boundWords({ bounds, n }: LossSeries): string {
  if (!bounds) return '';
  if (bounds.normal === null) return 'No bound yet: it takes two readings that differ.';
  const said = (under: number): string =>
    `With 95 % confidence 95 % of such work stays under ${under.toFixed(2)} dB`;
  const ifNormal = bounds.normal.toFixed(2);
  if (bounds.order !== null) {
    return `${said(bounds.order)}, whatever its shape (${ifNormal} if it were normally distributed).`;
  }
  const more =
    bounds.orderNeeds === null ? '' : `; ${bounds.orderNeeds - n} more readings say it without that`;
  return `${said(bounds.normal)} if it is normally distributed${more}.`;
}
