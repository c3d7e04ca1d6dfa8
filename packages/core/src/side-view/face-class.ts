import type { FaceLine } from './face-line.ts';
import { roughnessOf } from './line-fit.ts';

/** How the end of a fiber looks from the side. */
export const CLEAVE_CLASSES = ['mirror', 'mist', 'hackle', 'lip', 'chip', 'broken'] as const;
export type CleaveClass = (typeof CLEAVE_CLASSES)[number];

/** What speaks for a class. Lengths in µm, across the face and along the axis. */
export interface FaceSigns {
  /** Share of the rows that lie far off the line. */
  readonly offShare: number;
  /** Material that sticks out at a corner, and that is missing there: how wide and how far. */
  readonly lip: { readonly widthUm: number; readonly heightUm: number };
  readonly chip: { readonly widthUm: number; readonly depthUm: number };
  /** Root mean square of the roughness of the rougher and of the smoother side. */
  readonly roughUm: number;
  readonly smoothUm: number;
  /** The furthest that the rough side lies off the line, both ways. */
  readonly swingUm: number;
  /** Something lies on the face: it sticks out where no lip is. */
  readonly hasDirt: boolean;
}

const FAR_UM = 2.5;
const CORNER = { off: 1.3, firstRows: 0.97, jumpRows: 3 };
/** All thresholds in µm, house: by what the practice pictures show. */
const RULES = {
  brokenShare: 0.42,
  lip: { width: 3, height: 2.2 },
  chip: { width: 6, depth: 2.4 },
  hackle: { rough: 0.42, swing: 2.1 },
  mist: { rough: 0.17, ratio: 1.9 },
};

/** What the rows of a face show. `um` is the length of a pixel. */
export function signsOf(line: FaceLine, um: number): FaceSigns {
  const rows = line.rows.filter((r) => r.u !== null && Math.abs(r.v) < CORNER.firstRows * line.half);
  const offs = rows.map((r) => r.off * um);
  const far = offs.filter((o) => Math.abs(o) > FAR_UM).length / Math.max(1, offs.length);
  const corners = [cornerRun(offs, um), cornerRun([...offs].reverse(), um)];
  const lips = corners.filter((c) => c.most > 0).sort((a, b) => b.most - a.most);
  const chips = corners.filter((c) => c.most < 0).sort((a, b) => a.most - b.most);
  const side = (sign: number) => {
    const at = rows.map((r, i) => i).filter((i) => {
      const v = (rows[i]!.v * sign) / line.half;
      return v > 0.38 && v < 0.94;
    });
    const own = at.map((i) => rows[i]!.off * um);
    const rough = roughnessOf(own, own.length);
    return {
      rough: rough[Math.floor(rough.length / 2)] ?? 0,
      swing: Math.max(0, ...own) - Math.min(0, ...own),
    };
  };
  const upper = side(1);
  const lower = side(-1);
  const rougher = upper.rough > lower.rough ? upper : lower;
  const smoother = upper.rough > lower.rough ? lower : upper;
  return {
    offShare: far,
    lip: { widthUm: lips[0]?.width ?? 0, heightUm: lips[0]?.most ?? 0 },
    chip: { widthUm: chips[0]?.width ?? 0, depthUm: -(chips[0]?.most ?? 0) },
    roughUm: rougher.rough,
    smoothUm: smoother.rough,
    swingUm: rougher.swing,
    hasDirt: bumpInside(rows.map((r, i) => ({ v: r.v / line.half, off: offs[i]! })), um),
  };
}

/** How far the rows from a corner on lie off the line to one side. */
function cornerRun(offs: readonly number[], um: number): { width: number; most: number } {
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

const BUMP_UM = { off: 1.4, least: 2.5, most: 22 };
function bumpInside(rows: readonly { readonly v: number; readonly off: number }[], um: number): boolean {
  let run = 0;
  for (const { v, off } of rows) {
    if (off > BUMP_UM.off && Math.abs(v) < 0.85) run += um;
    else {
      if (run > BUMP_UM.least && run < BUMP_UM.most) return true;
      run = 0;
    }
  }
  return false;
}

/** The class for which most speaks, the gravest first. */
export function classOf(signs: FaceSigns): CleaveClass {
  const { offShare, lip, chip, roughUm, smoothUm, swingUm } = signs;
  if (offShare > RULES.brokenShare) return 'broken';
  if (roughUm > RULES.hackle.rough && swingUm > RULES.hackle.swing) return 'hackle';
  if (lip.heightUm > RULES.lip.height && lip.widthUm > RULES.lip.width) return 'lip';
  if (chip.depthUm > RULES.chip.depth && chip.widthUm > RULES.chip.width) return 'chip';
  if (roughUm > RULES.mist.rough && roughUm > RULES.mist.ratio * smoothUm) return 'mist';
  return 'mirror';
}
