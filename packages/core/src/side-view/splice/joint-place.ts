import { middleOf } from '../../faces/pixels/quantile.ts';
import { CORRELATED, robustFit } from '../robust.ts';

/** A place where the joint shows by something else, as a line does, or where somebody set it: column and standard uncertainty in µm. */
export interface JointHint {
  readonly at: number;
  readonly sdUm: number;
  readonly isSet?: boolean;
}

/** Edges of some columns taken together: where along the axis, their middle and their distance, in µm. */
export interface Bin {
  readonly u: number;
  readonly middle: number;
  readonly width: number;
}

/** How much one bin differs from the next by chance, standard deviations in µm. */
export interface Noise {
  readonly middle: number;
  readonly width: number;
}
/** A column of the joint in µm from the first one of the picture, with its standard uncertainty. */
export interface FoundPlace {
  readonly at: number;
  readonly sd: number;
}

/** Where two fibers meet: where somebody set it, where a hint or a bump says, or where a step and a bend leave least. */
export function placeOf(
  bins: readonly Bin[],
  noise: Noise,
  umPerPx: number,
  hint: JointHint | null,
): FoundPlace {
  if (hint === null) {
    const bump = bumpOf(bins, umPerPx);
    // A bump was found by the widths: they count once.
    return leastPlace(bins, noise, bump, bump === null);
  }
  const at = hint.at * umPerPx;
  return hint.isSet ? { at, sd: hint.sdUm } : leastPlace(bins, noise, { at, sdUm: hint.sdUm }, true);
}

/** The joint lies at least this share of what is seen from its ends. */
const INSIDE = 0.12;
/** Places are tried in such steps. */
const COARSE_UM = 12;
const STEP_UM = 4;
/** A step is drawn out by the arc as a logistic curve of this length. */
const DRAWN_OUT_UM = 4;
/** Reaches of a bell that are tried; most joints have the second. */
const BELLS_UM = [12, 18, 26, 36];
const USUAL_BELL_UM = 18;
/** Where nothing shows a joint, it lies in the middle of the picture within this share of its width. */
const CENTRED = 0.12;
/** Deviations over so many standard deviations count no more. */
const CUT = 3;
/**
 * A neck or a bulge that nobody can miss says where the joint is: the middle of what differs from the usual width. Dirt on one edge is passed over,
 * and so is what lies at the border of the picture.
 */
function bumpOf(bins: readonly Bin[], umPerPx: number): JointHint | null {
  const usual = middleOf(Float32Array.from(bins, (b) => b.width));
  const ofThree = (i: number, of: 'width' | 'middle'): number =>
    middleOf(Float32Array.from(bins.slice(Math.max(0, i - 1), i + 2), (b) => b[of]));
  const off = bins.map((_, i) => ofThree(i, 'width') - usual);
  const isLeft = bins.map((_, i) => Math.min(i, bins.length - 1 - i) >= INSIDE * (bins.length - 1));
  for (;;) {
    const at = off.reduce((b, o, i) => (isLeft[i] && (b < 0 || Math.abs(o) > Math.abs(off[b]!)) ? i : b), -1);
    if (at < 0 || Math.abs(off[at]!) < BUMP.leastUm) return null;
    const peak = off[at]!;
    let from = at;
    let to = at;
    while (from > 0 && off[from - 1]! / peak > 0.5) from -= 1;
    while (to < bins.length - 1 && off[to + 1]! / peak > 0.5) to += 1;
    const long = bins[to]!.u - bins[from]!.u;
    const before = bins[Math.max(0, from - 3)]!.middle;
    const after = bins[Math.min(bins.length - 1, to + 3)]!.middle;
    const isOneSided =
      Math.abs(ofThree(at, 'middle') - (before + after) / 2) > BUMP.oneSided * Math.abs(peak);
    if (!isOneSided && long >= BUMP.leastLongUm && long <= BUMP.mostLongUm)
      return { at: (bins[from]!.u + bins[to]!.u) / 2, sdUm: Math.max(2, umPerPx) };
    isLeft.fill(false, Math.max(0, from - 3), to + 4);
  }
}
const BUMP = { leastUm: 3, leastLongUm: 5, mostLongUm: 130, oneSided: 0.3 };

/** The place at which a step, a bend and a bell of the width together leave least. */
function leastPlace(
  bins: readonly Bin[],
  noise: Noise,
  hint: { readonly at: number; readonly sdUm: number } | null,
  countsWidth: boolean,
): FoundPlace {
  const first = bins[0]!.u;
  const span = bins.at(-1)!.u - first;
  const coarse = Math.max(COARSE_UM, span / 70);
  const places: number[] = [];
  for (let at = first + INSIDE * span; at <= first + (1 - INSIDE) * span; at += coarse) places.push(at);
  const ofEdges = costOfEdges(bins, noise, places, countsWidth);
  const tryAt = (at: number): Tried => {
    const centred = ((at - first) / span - 0.5) / CENTRED;
    const off = hint === null ? 0 : Math.abs(at - hint.at) / hint.sdUm;
    const hinted = off > HINT_REACHES ? HINT_COUNTS : off * off;
    return { at, cost: ofEdges(at) + centred ** 2 + hinted };
  };
  const least = (tried: readonly Tried[]): Tried => tried.reduce((a, b) => (b.cost < a.cost ? b : a));
  const rough = places.map(tryAt);
  if (hint !== null) rough.push(tryAt(hint.at));
  const near = least(rough).at;
  const fine: Tried[] = [];
  for (let at = near - coarse; at <= near + coarse; at += STEP_UM) fine.push(tryAt(at));
  const best = least(fine);
  const before = tryAt(best.at - STEP_UM).cost;
  const next = tryAt(best.at + STEP_UM).cost;
  const bow = before + next - 2 * best.cost;
  const shift = bow > 0 ? (STEP_UM * (before - next)) / (2 * bow) : 0;
  return {
    at: best.at + Math.max(-STEP_UM, Math.min(STEP_UM, shift)),
    sd: bow > 0 ? Math.min(60, Math.max(1, CORRELATED * STEP_UM * Math.sqrt(2 / bow))) : STEP_UM,
  };
}

/** What the edges cost at a place: their middles, and their widths where these count. `places` are some at which a joint may lie. */
function costOfEdges(
  bins: readonly Bin[],
  noise: Noise,
  places: readonly number[],
  countsWidth: boolean,
): (at: number) => number {
  const heights = bins.map((b) => b.middle);
  const widths = bins.map((b) => b.width);
  const middlesAt = (at: number): number[][] => bins.map((b) => middleTerms(b.u - at));
  const widthsAt = (at: number, bell: number): number[][] => bins.map((b) => widthTerms(b.u - at, bell));
  // An edge wanders over many columns by more than one differs from the next: what the best fit leaves tells.
  const sdOfMiddle = leastLeft(places.map(middlesAt), heights, noise.middle);
  const bells = countsWidth ? BELLS_UM : [];
  const sdOfWidth = countsWidth
    ? leastLeft(
        places.map((at) => widthsAt(at, USUAL_BELL_UM)),
        widths,
        noise.width,
      )
    : noise.width;
  return (at) => {
    const ofWidth = bells.map((bell) => costOf(widthsAt(at, bell), widths, sdOfWidth));
    return costOf(middlesAt(at), heights, sdOfMiddle) + (countsWidth ? Math.min(...ofWidth) : 0);
  };
}

interface Tried {
  readonly at: number;
  readonly cost: number;
}
/** Further from a hint, in its standard deviations, no joint is looked for: it costs more than all that one there could save. */
const HINT_REACHES = 4;
const HINT_COUNTS = 5000;

const after = (d: number): number => 1 / (1 + Math.exp(-Math.max(-40, Math.min(40, d / DRAWN_OUT_UM))));
function middleTerms(d: number): number[] {
  const s = after(d);
  const t = d / 100;
  return [1 - s, (1 - s) * t, (1 - s) * t * t, s, s * t, s * t * t];
}
/** Both sides and a bell: what a width is made of, at a distance from the joint. */
export const widthTerms = (d: number, bell: number): number[] => {
  const s = after(d);
  return [1 - s, s, Math.exp((-d * d) / (2 * bell * bell))];
};

/** What a robust fit leaves, in squared standard deviations, none counted over `CUT` of them. */
function costOf(terms: readonly number[][], values: readonly number[], sd: number): number {
  const fit = robustFit(terms, values, { least: sd, most: 3 * sd, rounds: 4 });
  if (!fit) return Infinity;
  return fit.left.reduce((sum, r) => sum + Math.min(CUT * CUT, (r / sd) ** 2), 0);
}

/** The least that any of these fits leaves, as a standard deviation; at least `least`. */
function leastLeft(fits: readonly (readonly number[][])[], values: readonly number[], least: number): number {
  const spreads = fits.flatMap((terms) => robustFit(terms, values, { least, rounds: 4 })?.spread ?? []);
  return Math.max(least, Math.min(...spreads, Infinity));
}
