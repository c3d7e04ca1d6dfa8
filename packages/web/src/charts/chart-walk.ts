import type { ChartOption } from './echarts.ts';

/** A point of a chart that can be stood on. */
export interface ChartPlace {
  readonly seriesIndex: number;
  readonly dataIndex: number;
  /** What it says: the name of the point, or its value. */
  readonly words: string;
}

interface Series {
  readonly silent?: boolean;
  readonly data?: readonly unknown[];
}

/** Every point of a chart that says something, in the order of the series; lines without points are passed over. */
export function chartPlaces(option: ChartOption): ChartPlace[] {
  const series = (option['series'] ?? []) as readonly Series[];
  return series.flatMap(({ silent, data }, seriesIndex) =>
    silent
      ? []
      : (data ?? []).flatMap((item, dataIndex) => {
          const words = pointWords(item);
          return words === null ? [] : [{ seriesIndex, dataIndex, words }];
        }),
  );
}

/** What a point says: its name, or its value; null where there is none. */
export function pointWords(item: unknown): string | null {
  if (item === null || item === undefined) return null;
  if (typeof item === 'number') return String(item);
  const { name, value } = item as { name?: unknown; value?: unknown };
  const said = Array.isArray(value) ? String(value[value.length - 1]) : String(value ?? '');
  return typeof name === 'string'
    ? Array.isArray(value) && !name.includes(said)
      ? `${name}: ${said}`
      : name
    : said;
}

/** The place that a key goes to from a place; -1 is none. Both ends hold. */
export function placeAfter(key: string, at: number, places: number): number | null {
  if (places === 0) return null;
  switch (key) {
    case 'ArrowRight':
    case 'ArrowDown':
      return Math.min(places - 1, at + 1);
    case 'ArrowLeft':
    case 'ArrowUp':
      return at < 0 ? places - 1 : Math.max(0, at - 1);
    case 'Home':
      return 0;
    case 'End':
      return places - 1;
    case 'Escape':
      return -1;
    default:
      return null;
  }
}
