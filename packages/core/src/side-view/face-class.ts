import type { FaceLine } from './face-line.ts';

/** How the end of a fiber looks from the side. */
export const CLEAVE_CLASSES = ['mirror', 'mist', 'hackle', 'lip', 'chip', 'broken'] as const;
export type CleaveClass = (typeof CLEAVE_CLASSES)[number];

/** What speaks for a class. Lengths in µm, across the face and along the axis. */
export interface FaceSigns {
  /** Share of the rows that lie far off the line. */
  readonly offShare: number;
  /** The same of the smoother half. */
  readonly smoothOffShare: number;
  /** Material that sticks out at a corner, and that is missing there: how wide and how far. */
  readonly lip: { readonly widthUm: number; readonly heightUm: number };
  readonly chip: { readonly widthUm: number; readonly depthUm: number };
  /** How far the rows of the rougher and of the smoother side go to and fro, all in all. */
  readonly roughUm: number;
  /** Which of the sides that is. */
  readonly roughSide: 'up' | 'down';
  readonly smoothUm: number;
  /** How far apart the rows of the rougher side lie at the most, without what is off at the corner. */
  readonly swingUm: number;
  /** How often the rows of the rougher side turn, out or in, by a clear step. */
  readonly turns: number;
  /** Something lies on the face: it sticks out where no lip is, and the face is not rough itself. */
  readonly hasDirt: boolean;
}

const FAR_UM = 2.5;
const CORNER = { off: 1.1, first: 0.985, jumpRows: 3 };
/** A row further off than this is no end: nothing was seen there; near a corner less is believed. */
const MOST_OFF = { um: 40, cornerUm: 14, corner: 0.94 };
const SIDE = { from: 0.36, to: 0.93 };
/** All thresholds in µm, house: by what the practice pictures show. */
const RULES = {
  brokenShare: 0.28,
  lip: { width: 2, height: 1.7 },
  chip: { width: 6, depth: 2.2 },
  hackle: { rough: 4.2, swing: 2 },
  /** Few large steps: hackle that is coarser. */
  steps: { turns: 2, rough: 1.1, swing: 3, offShare: 0.1 },
  /** The other half of what is broken is no face either. */
  half: { offShare: 0.05, rough: 2 },
  mist: { rough: 1.1, narrow: 2.6, ratio: 2, depth: 4 },
};

/** What the rows of a face show. `um` is the length of a pixel. */
export function signsOf(line: FaceLine, um: number): FaceSigns {
  const rows = line.rows
    .filter((r) => r.u !== null && Math.abs(r.v) < CORNER.first * line.half)
    .map((r) => ({ v: r.v / line.half, off: r.off * um }))
    .filter((r) => Math.abs(r.off) < (Math.abs(r.v) > MOST_OFF.corner ? MOST_OFF.cornerUm : MOST_OFF.um));
  const offs = rows.map((r) => r.off);
  const farOf = (of: readonly number[]): number =>
    of.filter((o) => Math.abs(o) > FAR_UM).length / Math.max(1, of.length);
  const bumps = bumpsInside(rows, um);
  const bump = new Set(bumps.flatMap((b) => b.rows));
  const below = cornerRun(offs, um);
  const above = cornerRun([...offs].reverse(), um);
  const corners = [below, above];
  const lips = corners.filter((c) => c.most > 0).sort((a, b) => b.most - a.most);
  const chips = corners.filter((c) => c.most < 0).sort((a, b) => a.most - b.most);
  const side = (sign: number, corner: CornerRun): SideSigns => {
    const all = rows.filter((r) => r.v * sign > 0).map((r) => r.off);
    const own = rows
      .filter((r, i) => r.v * sign > SIDE.from && r.v * sign < SIDE.to && !bump.has(i))
      .map((r) => r.off);
    const ordered = sign > 0 ? own.reverse() : own;
    // What is off at the corner is a lip or a chip, where it is smooth.
    return {
      ...sideSigns(
        smoothed(withoutSpikes(ordered, um)),
        Math.min(Math.round(corner.width / um), Math.floor(ordered.length / 2)),
      ),
      off: farOf(all),
      turns: turnsOf(withoutSpikes(all, um)),
    };
  };
  const upper = side(1, above);
  const lower = side(-1, below);
  const both = [upper, lower].sort((a, b) => b.rough - a.rough);
  return {
    offShare: farOf(offs),
    smoothOffShare: both[1]!.off,
    lip: { widthUm: lips[0]?.width ?? 0, heightUm: lips[0]?.most ?? 0 },
    chip: { widthUm: chips[0]?.width ?? 0, depthUm: -(chips[0]?.most ?? 0) },
    roughUm: both[0]!.rough,
    roughSide: upper.rough > lower.rough ? 'up' : 'down',
    smoothUm: both[1]!.rough,
    swingUm: both[0]!.swing,
    turns: both[0]!.turns,
    hasDirt: both[0]!.rough < DIRT.rough && bumps.some(isDirt),
  };
}

interface Roughness {
  readonly rough: number;
  readonly swing: number;
}
interface SideSigns extends Roughness {
  readonly off: number;
  readonly turns: number;
}
/** How often rows turn from going out to going in and back, counting only what goes on for `TURN_UM`. */
function turnsOf(offs: readonly number[]): number {
  let turns = 0;
  let way = 0;
  let least = offs[0] ?? 0;
  let most = least;
  for (const off of offs) {
    least = Math.min(least, off);
    most = Math.max(most, off);
    const now = off - least > TURN_UM ? 1 : most - off > TURN_UM ? -1 : 0;
    if (now === 0 || now === way) {
      if (way > 0) least = most = Math.max(most, off);
      if (way < 0) least = most = Math.min(least, off);
      continue;
    }
    if (way !== 0) turns += 1;
    way = now;
    least = most = off;
  }
  return turns;
}
/** House: more than what mist goes to and fro. */
const TURN_UM = 1.2;
/** How much rows go to and fro beyond what takes them from the first to the last, and how far apart they lie past a corner. */
function sideSigns(offs: readonly number[], corner: number): Roughness {
  if (offs.length < 4) return { rough: 0, swing: 0 };
  let there = 0;
  for (let i = 1; i < offs.length; i++) there += Math.abs(offs[i]! - offs[i - 1]!);
  const least = Math.min(...offs);
  const most = Math.max(...offs);
  const straight = Math.max(most - least, Math.abs(offs.at(-1)! - offs[0]!));
  const rest = offs.slice(corner);
  return { rough: there - straight, swing: Math.max(...rest) - Math.min(...rest) };
}
const smoothed = (offs: readonly number[]): number[] =>
  offs.map((o, i) => ((offs[i - 1] ?? o) + o + (offs[i + 1] ?? o)) / 3);

interface CornerRun {
  readonly width: number;
  readonly most: number;
}
/** How far the rows from a corner on lie off the line to one side. */
function cornerRun(offs: readonly number[], um: number): CornerRun {
  const first = offs.slice(0, CORNER.jumpRows).sort((a, b) => a - b)[1] ?? 0;
  const sign = Math.sign(first);
  let width = 0;
  let most = 0;
  for (const off of offs) {
    if (off * sign < CORNER.off) break;
    width += um;
    if (Math.abs(off) > Math.abs(most)) most = off;
  }
  return { width, most };
}

const BUMP_UM = { off: 1.4, least: 2.5, most: 22, beside: 3, inside: 0.85, count: 2 };
/** Something that sticks out of the face away from its corners. */
interface Bump {
  /** Its rows, with what is beside it. */
  readonly rows: readonly number[];
  readonly widthUm: number;
  readonly heightUm: number;
  /** Across the fiber, in half widths. */
  readonly middle: number;
}
interface SeenRow {
  readonly v: number;
  readonly off: number;
}
/**
 * A speck stands out no further than it is wide, and is wider than the flanks of the bright band move; nobody tells it on a rough face. µm, house:
 * by what the practice pictures show.
 */
const DIRT = { least: 5, rough: 2 };
const isDirt = ({ widthUm, heightUm }: Bump): boolean => widthUm >= DIRT.least && heightUm <= widthUm;

/** What sticks out of the face between its corners. */
function bumpsInside(rows: readonly SeenRow[], um: number): readonly Bump[] {
  const found: Bump[] = runsInside(rows, um, 1);
  const hollows = runsInside(rows, um, -1);
  const isAtHollow = ({ middle }: Bump): boolean => hollows.some((h) => h.middle * middle > 0);
  // One lies there by chance; where there are several, or glass is missing as well, the face itself is rough.
  return found.length > BUMP_UM.count ? [] : found.filter((b) => !isAtHollow(b));
}

/** Runs of rows away from the corners that lie off to one side, outwards or inwards. */
function runsInside(rows: readonly SeenRow[], um: number, way: 1 | -1): Bump[] {
  const found: Bump[] = [];
  const beside = Math.ceil(BUMP_UM.beside / um);
  let from = -1;
  rows.forEach(({ v, off }, i) => {
    const isOut = off * way > BUMP_UM.off;
    if (isOut && from < 0) from = i;
    if (isOut || from < 0) return;
    const run = (i - from) * um;
    const isInside = Math.abs(rows[from]!.v) < BUMP_UM.inside && Math.abs(v) < BUMP_UM.inside;
    if (isInside && run > BUMP_UM.least && run < BUMP_UM.most)
      found.push({
        rows: Array.from({ length: i - from + 2 * beside }, (_, k) => from - beside + k),
        widthUm: run,
        heightUm: Math.max(...rows.slice(from, i).map((r) => r.off * way)),
        middle: (rows[from]!.v + v) / 2,
      });
    from = -1;
  });
  return found;
}

/** Without what is narrower than a line that is drawn over the picture. */
function withoutSpikes(offs: readonly number[], um: number): number[] {
  const reach = Math.floor(SPIKE_UM / um / 2);
  if (reach === 0) return [...offs];
  return offs.map((_, i) => {
    const near = offs.slice(Math.max(0, i - reach), i + reach + 1).sort((a, b) => a - b);
    return near[near.length >> 1]!;
  });
}
const SPIKE_UM = 3;

/** The class for which most speaks, the gravest first. Ends that nearly touch are read less finely. */
export function classOf(signs: FaceSigns, isNarrow: boolean): CleaveClass {
  const { offShare, lip, chip, roughUm, smoothUm, swingUm } = signs;
  if (offShare > RULES.brokenShare) return isHalfAFace(signs) ? 'hackle' : 'broken';
  if (roughUm > RULES.hackle.rough && swingUm > RULES.hackle.swing) return 'hackle';
  if (!isNarrow && isStepped(signs)) return 'hackle';
  if (lip.heightUm > RULES.lip.height && lip.widthUm > RULES.lip.width) return 'lip';
  const mist = isNarrow ? RULES.mist.narrow : RULES.mist.rough;
  const isMisty = roughUm > mist && roughUm > RULES.mist.ratio * smoothUm;
  // A misty corner lies back a little, a broken one far.
  const chipped = isMisty ? RULES.mist.depth : RULES.chip.depth;
  if (chip.depthUm > chipped && chip.widthUm > RULES.chip.width) return 'chip';
  return isMisty ? 'mist' : 'mirror';
}

const isStepped = ({ turns, roughUm, swingUm, offShare, hasDirt }: FaceSigns): boolean =>
  turns >= RULES.steps.turns &&
  roughUm > RULES.steps.rough &&
  (swingUm > RULES.steps.swing || offShare > RULES.steps.offShare) &&
  !hasDirt;

const isHalfAFace = ({ turns, smoothOffShare, smoothUm }: FaceSigns): boolean =>
  turns >= RULES.steps.turns && smoothOffShare < RULES.half.offShare && smoothUm < RULES.half.rough;
