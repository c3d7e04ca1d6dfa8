import { parsePart } from '../sheet/index.ts';

/** One fiber of a row at one wavelength and direction. */
export interface FiberLoss {
  /** Part of the reading, as `partKey` writes it: fiber, wavelength, direction. */
  readonly part: string;
  readonly lossDb: number;
}

/** How the fibers of a row differ at one wavelength and direction; losses in dB. */
export interface RowSpread {
  readonly wavelengthNm: number;
  readonly direction: 'a_b' | 'b_a' | null;
  readonly fibers: number;
  readonly least: { readonly fiber: number; readonly lossDb: number };
  readonly most: { readonly fiber: number; readonly lossDb: number };
  /** Most less least. */
  readonly spreadDb: number;
  readonly medianDb: number;
  /** Fibers that stand apart from the others, the farthest first. */
  readonly outliers: readonly {
    readonly fiber: number;
    readonly lossDb: number;
    readonly fromMedianDb: number;
  }[];
}

/** A fiber stands apart from this many robust standard deviations on; common practice of robust statistics. */
const APART = 3.5;
/** Median absolute deviation of a normal sample to its standard deviation: 1 / 0.6745. */
const MAD_TO_SD = 1.4826;
/** With fewer fibers none can be told from its neighbours. */
const FEWEST = 4;

/**
 * Spread of a row's fibers by wavelength and direction: most less least, and each fiber whose loss lies farther from the
 * median than 3.5 times the scaled median absolute deviation (Iglewicz and Hoaglin's modified z) and than the uncertainty
 * of a reading, dB, which alone can set one apart. Groups of one fiber are left out. Example: eleven fibers of 0.4 and one of
 * 1.2 dB spread by 0.8 dB, the last an outlier.
 */
export function rowSpread(readings: readonly FiberLoss[], uncertaintyDb: number): readonly RowSpread[] {
  const groups = new Map<string, { fiber: number; lossDb: number }[]>();
  for (const { part, lossDb } of readings) {
    const { fiber, wavelengthNm, direction } = parsePart(part);
    if (fiber === null || wavelengthNm === null) continue;
    const key = `${wavelengthNm} ${direction ?? ''}`;
    groups.set(key, [...(groups.get(key) ?? []), { fiber, lossDb }]);
  }
  return [...groups].flatMap(([key, fibers]) => {
    if (fibers.length < 2) return [];
    const [wavelength, direction] = key.split(' ');
    const sorted = [...fibers].sort((a, b) => a.lossDb - b.lossDb || a.fiber - b.fiber);
    const least = sorted[0]!;
    const most = sorted.at(-1)!;
    const medianDb = median(sorted.map((f) => f.lossDb));
    const scale = MAD_TO_SD * median(sorted.map((f) => Math.abs(f.lossDb - medianDb)).sort((a, b) => a - b));
    const outliers =
      fibers.length < FEWEST
        ? []
        : sorted
            .map((f) => ({ ...f, fromMedianDb: f.lossDb - medianDb }))
            .filter((f) => Math.abs(f.fromMedianDb) > Math.max(APART * scale, uncertaintyDb))
            .sort((a, b) => Math.abs(b.fromMedianDb) - Math.abs(a.fromMedianDb));
    return [
      {
        wavelengthNm: Number(wavelength),
        direction: direction === '' ? null : (direction as 'a_b' | 'b_a'),
        fibers: fibers.length,
        least,
        most,
        spreadDb: most.lossDb - least.lossDb,
        medianDb,
        outliers,
      },
    ];
  });
}

/** Of a sorted list that is not empty. */
function median(sorted: readonly number[]): number {
  const middle = sorted.length / 2;
  return sorted.length % 2 === 1 ? sorted[Math.floor(middle)]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
}
