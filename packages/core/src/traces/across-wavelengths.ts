import type { TraceAnalysis, TraceEvent } from './analyse-trace.ts';

/** One trace of a fiber among those at other wavelengths. */
export interface AtWavelength {
  readonly wavelengthNm: number;
  readonly analysis: TraceAnalysis;
}
/** What lies at one place, by wavelength. */
export interface PlaceAcross {
  readonly positionM: number;
  /** In the order of the traces; null where nothing was found there, or no loss could be measured. */
  readonly lossesDb: readonly (number | null)[];
  /** It loses so much more at the longest wavelength than at the shortest that the fiber is bent there. */
  readonly bend: boolean;
}

/** A connector or a splice differs by less between 1310 and 1625 nm (common practice). */
const GROWS_DB = 0.1;
const SURE_SD = 4;

/**
 * Events of one fiber at two wavelengths or more beside each other. Bent fiber loses more the longer the wavelength, a splice or a connector about
 * the same (common practice): growth tells them apart. What the shortest wavelength does not show counts as nothing there, where its
 * trace goes that far. `withinM` is how far apart the same event may lie, such as a pulse. Positions are those at the longest.
 */
export function acrossWavelengths(traces: readonly AtWavelength[], withinM: number): PlaceAcross[] {
  const byLength = [...traces].sort((a, b) => a.wavelengthNm - b.wavelengthNm);
  const shortest = byLength[0];
  const longest = byLength.at(-1);
  if (!shortest || !longest || shortest === longest) return [];
  const near = ({ analysis }: AtWavelength, atM: number): TraceEvent | null =>
    analysis.events
      .filter((e) => !e.ghost && e.kind !== 'end' && Math.abs(e.positionM - atM) <= withinM)
      .sort((a, b) => Math.abs(a.positionM - atM) - Math.abs(b.positionM - atM))[0] ?? null;
  const places: number[] = [];
  for (const { analysis } of [longest, ...traces]) {
    for (const { positionM, kind, ghost } of analysis.events) {
      if (ghost || kind === 'end' || places.some((p) => Math.abs(p - positionM) <= withinM)) continue;
      places.push(positionM);
    }
  }
  return places
    .sort((a, b) => a - b)
    .map((positionM) => ({
      positionM,
      lossesDb: traces.map((t) => near(t, positionM)?.lossDb ?? null),
      bend: isBend(
        near(shortest, positionM),
        near(longest, positionM),
        seesTo(shortest) > positionM + withinM,
      ),
    }));
}

/** How far lines of backscatter were found. */
const seesTo = ({ analysis }: AtWavelength): number => analysis.lines.at(-1)?.toM ?? 0;

function isBend(short: TraceEvent | null, long: TraceEvent | null, shortSeesIt: boolean): boolean {
  if (!long || long.lossDb === null || (!short && !shortSeesIt) || short?.lossDb === null) return false;
  const grows = long.lossDb - (short?.lossDb ?? 0);
  const u = Math.hypot(long.uLossDb ?? 0, short?.uLossDb ?? 0);
  return grows > Math.max(GROWS_DB, SURE_SD * u);
}
