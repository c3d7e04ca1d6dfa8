import { between, clamp } from './back-lit.ts';
import {
  Across,
  cellsOf,
  GLASS as MAGNIFIES,
  type OtherOptics,
  randomOptics,
  seenByLens,
} from './other-lamp-for-tests.ts';
import { chance, normal, pick, type Rng } from './rng.ts';
import { SPLICE_LOOKS, type SpliceLook } from './splice-view.ts';

/** A joint of the second way to draw them; whole offsets and turns are root sums of squares over the views. */
export interface OtherSplice {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
  readonly optics: OtherOptics;
  readonly look: SpliceLook;
  readonly views: 1 | 2;
  readonly isCurled: boolean;
  readonly offsetUm: number;
  readonly coreOffsetUm: number;
  readonly angleDeg: number;
  readonly changeUm: number;
}

/** What one view sees of a joint; lengths in µm. */
interface Side {
  readonly step: number;
  readonly core: number;
  readonly turnDeg: number;
}
interface Joint {
  readonly radius: number;
  readonly change: number;
  readonly reach: number;
  /** Over what length a step is drawn out. */
  readonly eased: number;
  readonly tiltDeg: number;
  /** Rows a µm², on both sides. */
  readonly curl: readonly [number, number];
  readonly bubble: {
    readonly radius: number;
    readonly along: number;
    readonly across: number;
    readonly flat: number;
  } | null;
  readonly line: { readonly depth: number; readonly um: number; readonly share: number } | null;
  readonly coreLight: number;
  readonly coreWide: number;
}

const DIVIDER = 5;

export function otherSplice(
  rng: Rng,
  look: SpliceLook = pick(rng, SPLICE_LOOKS),
  width?: number,
): OtherSplice {
  const views = chance(rng, 0.45) ? 2 : 1;
  const whole = randomOptics(rng, [280, 650], width);
  const rows = views === 2 ? Math.floor((whole.height - DIVIDER) / 2) : whole.height;
  const optics: OtherOptics = {
    ...whole,
    height: rows,
    umPerPx: views === 2 ? whole.umPerPx * 1.4 : whole.umPerPx,
    blocks: [0, 0],
    tips: whole.tips && views === 1 ? whole.tips : null,
  };
  const way = between(rng, 0, 2 * Math.PI);
  const size = look === 'offset' ? between(rng, 4, 16) : Math.abs(normal(rng)) * 0.4;
  const off = Math.abs(normal(rng)) * 0.35;
  const offWay = between(rng, 0, 2 * Math.PI);
  const turn = look === 'angle' ? between(rng, 1.7, 5) : Math.abs(normal(rng)) * 0.1;
  const turnWay = between(rng, 0, 2 * Math.PI);
  const seen = (amount: number, at: number, view: number): number =>
    views === 1 ? amount * Math.sign(Math.cos(at)) : amount * Math.cos(at - (view * Math.PI) / 2);
  const sides = Array.from({ length: views }, (_, i): Side => {
    const step = seen(size, way, i);
    return { step, core: step + seen(off, offWay, i), turnDeg: seen(turn, turnWay, i) };
  });
  const isCurled = chance(rng, 0.35);
  const joint = jointOf(rng, look, isCurled);
  const parts = sides.map((side) => seenByLens(shareOf(optics, joint, side, rng), optics, rng));
  const height = views === 2 ? 2 * rows + DIVIDER : rows;
  const data = new Uint8Array(optics.width * height).fill(12);
  parts.forEach((part, i) => data.set(part, i * (rows + DIVIDER) * optics.width));
  const of = (value: (s: Side) => number): number => Math.hypot(...sides.map(value));
  return {
    width: optics.width,
    height,
    data,
    optics,
    look,
    views,
    isCurled,
    offsetUm: of((s) => s.step),
    coreOffsetUm: of((s) => s.core),
    angleDeg: of((s) => s.turnDeg),
    changeUm: joint.change,
  };
}

function jointOf(rng: Rng, look: SpliceLook, isCurled: boolean): Joint {
  const curl = (): number => (isCurled ? (chance(rng, 0.5) ? 1 : -1) / (2000 * between(rng, 110, 300)) : 0);
  return {
    radius: 62.5 + between(rng, -0.35, 0.35),
    change:
      look === 'neck' ? -between(rng, 6, 35) : look === 'bulge' ? between(rng, 6, 28) : normal(rng) * 0.4,
    reach: between(rng, 12, 32),
    eased: between(rng, 3, 9),
    tiltDeg: normal(rng) * 1.2,
    curl: [curl(), curl()],
    bubble:
      look === 'bubble'
        ? {
            radius: between(rng, 5, 14),
            along: normal(rng) * 2,
            across: between(rng, -12, 12),
            flat: between(rng, 0.75, 1),
          }
        : null,
    line:
      look === 'line'
        ? { depth: between(rng, 0.3, 0.7), um: between(rng, 0.8, 2), share: between(rng, 0.75, 1) }
        : null,
    coreLight: between(rng, 0.1, 0.35),
    coreWide: between(rng, 4, 5.2) * MAGNIFIES,
  };
}

function shareOf(optics: OtherOptics, joint: Joint, side: Side, rng: Rng): Float32Array {
  const cells = cellsOf(optics);
  const um = optics.umPerPx / cells;
  const long = optics.width * cells;
  const high = optics.height * cells;
  const across = new Across(optics);
  const at = long * between(rng, 0.4, 0.6);
  const lies = high * between(rng, 0.46, 0.54);
  const slope = Math.tan((joint.tiltDeg * Math.PI) / 180);
  const turned = Math.tan(((joint.tiltDeg + side.turnDeg) * Math.PI) / 180) - slope;
  const share = new Float32Array(long * high).fill(1);
  for (let x = 0; x < long; x++) {
    const u = (x + 0.5 - at) * um;
    // A logistic step, and the way that belongs to it for a turn: surface tension leaves no corner.
    const s = 1 / (1 + Math.exp((-1.7 * u) / joint.eased));
    const past = u > 0 ? u + soft(u, joint.eased) : soft(u, joint.eased);
    const axis = slope * u + turned * past + side.step * s + joint.curl[u < 0 ? 0 : 1] * u * u;
    const half = joint.radius + joint.change / 2 / Math.cosh(u / joint.reach) ** 2;
    const slant = Math.cos(Math.atan(slope + turned * s));
    const core = MAGNIFIES * (side.core - side.step) * s;
    for (let y = 0; y < high; y++) {
      const v = ((y + 0.5 - lies) * um - axis) * slant;
      if (Math.abs(v) > half + um) continue;
      const glass = across.mean((v - um / 2) / half, (v + um / 2) / half);
      share[y * long + x] =
        Math.abs(v) > half - um ? glass : glass * marksAt(joint, u + slope * v, v, core, half);
    }
  }
  return share;
}
const soft = (u: number, eased: number): number =>
  (eased / 1.7) * Math.log1p(Math.exp((-1.7 * Math.abs(u)) / eased));

/** What a core, a line and a bubble make of the light inside of a fiber. */
function marksAt(joint: Joint, u: number, v: number, core: number, half: number): number {
  const c = Math.abs(v - core) / joint.coreWide;
  // A core gathers light from its flanks.
  let share =
    1 + joint.coreLight * (Math.exp(-((c / 0.8) ** 4)) - 0.5 * Math.exp(-(((c - 1.25) / 0.3) ** 2)));
  const { line, bubble } = joint;
  if (line && Math.abs(v) < line.share * half) share *= 1 - line.depth * Math.exp(-((u / line.um) ** 2));
  if (bubble) {
    const away = Math.hypot((u - bubble.along) * bubble.flat, v - bubble.across) / bubble.radius;
    const rim = clamp((1 - away) * 4 + 0.5);
    share *= 1 - rim * (0.65 - 0.5 * Math.exp(-((away / 0.4) ** 2)));
  }
  return share;
}
