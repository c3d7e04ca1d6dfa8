import { between, clamp } from './back-lit.ts';
import { CLEAVE_LOOKS, type CleaveLook } from './cleave-view.ts';
import { Across, cellsOf, type OtherOptics, randomOptics, seenByLens } from './other-lamp-for-tests.ts';
import { chance, normal, pick, type Rng } from './rng.ts';

/** One end of the second way to draw cleaves. */
export interface OtherCleave {
  readonly side: 'left' | 'right';
  readonly look: CleaveLook;
  readonly angleDeg: number;
  readonly axisDeg: number;
  /** Tilt of the face towards the eye. */
  readonly towardsDeg: number;
  readonly edge: 'up' | 'down';
  readonly sizeUm: number;
  /** The face is seen as a line that is so dark and so thick. */
  readonly rim: { readonly dark: number; readonly um: number };
}
export interface OtherCleaveView {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
  readonly optics: OtherOptics;
  readonly ends: readonly OtherCleave[];
}

/** A scene of the second way: one end, or two that face each other. */
export function otherCleave(rng: Rng, width?: number): OtherCleaveView {
  const optics = randomOptics(rng, [300, 800], width);
  const isPair = rng() < 0.45;
  const tilt = normal(rng) * 2.5;
  const sides: OtherCleave['side'][] = isPair ? ['left', 'right'] : [rng() < 0.5 ? 'left' : 'right'];
  const ends = sides.map((side): OtherCleave => {
    const look: CleaveLook = pick(rng, ['mirror', 'mirror', 'mirror', ...CLEAVE_LOOKS]);
    return {
      side,
      look,
      angleDeg: normal(rng) * (chance(rng, 0.2) ? 3 : 0.9),
      axisDeg: tilt + normal(rng) * 0.4,
      towardsDeg: normal(rng) * 0.7,
      edge: rng() < 0.5 ? 'up' : 'down',
      sizeUm: between(rng, 5, 16),
      rim: { dark: between(rng, 0, 0.8), um: between(rng, 0.3, 2.5) },
    };
  });
  const diameterUm = 125 + between(rng, -0.7, 0.7);
  const gapUm = between(rng, 14, 70);
  const share = shareOf(optics, ends, diameterUm / 2, gapUm, rng);
  return { width: optics.width, height: optics.height, data: seenByLens(share, optics, rng), optics, ends };
}

/** Places across the face, one every half µm. */
const STEP_UM = 0.5;
interface Drawn extends OtherCleave {
  readonly x: number;
  readonly y: number;
  readonly out: readonly [number, number];
  readonly up: readonly [number, number];
  readonly outline: Float32Array;
  /** How far light is scattered behind the face, µm, at each place across. */
  readonly rough: Float32Array;
}

function shareOf(
  optics: OtherOptics,
  ends: readonly OtherCleave[],
  radius: number,
  gapUm: number,
  rng: Rng,
): Float32Array {
  const cells = cellsOf(optics);
  const um = optics.umPerPx / cells;
  const long = optics.width * cells;
  const high = optics.height * cells;
  const across = new Across(optics);
  const drawn = ends.map((end) =>
    drawnEnd(end, long, high, um, radius, ends.length === 2 ? gapUm : null, rng),
  );
  const share = new Float32Array(long * high).fill(1);
  for (const end of drawn) {
    for (let y = 0; y < high; y++) {
      for (let x = 0; x < long; x++) {
        const dx = (x + 0.5 - end.x) * um;
        const dy = (y + 0.5 - end.y) * um;
        const v = dx * end.up[0] + dy * end.up[1];
        if (Math.abs(v) > radius + um) continue;
        const s = dx * end.out[0] + dy * end.out[1];
        share[y * long + x]! *= lightIn(end, across, s, v, radius, um, optics.stray);
      }
    }
  }
  return share;
}
function lightIn(
  end: Drawn,
  across: Across,
  s: number,
  v: number,
  radius: number,
  um: number,
  stray: number,
): number {
  const chord = Math.sqrt(Math.max(0, radius * radius - v * v));
  const tilt = Math.abs(Math.tan((end.towardsDeg * Math.PI) / 180)) * chord;
  const k = (v + radius) / STEP_UM;
  const i = Math.max(0, Math.min(end.outline.length - 2, Math.floor(k)));
  const part = clamp(k - i);
  const shape = end.outline[i]! + (end.outline[i + 1]! - end.outline[i]!) * part;
  const depth = Math.tan((end.angleDeg * Math.PI) / 180) * v + shape + tilt - s;
  const along = clamp(depth / um + 0.5);
  if (along === 0) return 1;
  let glass = across.mean((v - um / 2) / radius, (v + um / 2) / radius);
  // The face itself, seen from its side: as thick as its rim and its tilt.
  if (depth < end.rim.um + 2 * tilt) glass *= 1 - end.rim.dark;
  if (depth < end.rough[i]!) glass = stray + 0.4 * (glass - stray);
  return 1 + along * (glass - 1);
}

function drawnEnd(
  end: OtherCleave,
  long: number,
  high: number,
  um: number,
  radius: number,
  gapUm: number | null,
  rng: Rng,
): Drawn {
  const turn = (end.axisDeg * Math.PI) / 180;
  const sign = end.side === 'left' ? 1 : -1;
  const apart = gapUm === null ? -sign * long * between(rng, -0.08, 0.2) : (sign * gapUm) / 2 / um;
  const { outline, rough } = shapeOf(end, radius, rng);
  return {
    ...end,
    x: long / 2 - apart,
    y: high / 2 + between(rng, -3, 3) / um,
    out: [sign * Math.cos(turn), -sign * Math.sin(turn)],
    up: [-Math.sin(turn), -Math.cos(turn)],
    outline,
    rough,
  };
}

/** How a face differs from its plane: what each fault makes of glass (facts of the trade, common practice; shapes and sizes are house ones). */
function shapeOf(end: OtherCleave, radius: number, rng: Rng): { outline: Float32Array; rough: Float32Array } {
  const n = Math.ceil((2 * radius) / STEP_UM) + 2;
  const outline = new Float32Array(n);
  const rough = new Float32Array(n);
  const bow = normal(rng) * 0.12;
  const reach = between(rng, 0.25, 0.6) * 2 * radius;
  const walk = end.look === 'hackle' ? terraces(n, end.sizeUm, rng) : new Float32Array(n);
  const grain = fineGrain(n, rng);
  const wide = { lip: between(rng, 6, 18), chip: between(rng, 10, 26) };
  for (let i = 0; i < n; i++) {
    const v = i * STEP_UM - radius;
    const fromEdge = Math.max(0, end.edge === 'up' ? radius - v : radius + v);
    outline[i] = bow * (1 - (v / radius) ** 2);
    if (end.look === 'mist' && fromEdge < reach) {
      const grows = 1 - fromEdge / reach;
      outline[i]! += grain[i]! * (0.3 + 0.5 * grows);
      rough[i] = 1 + 5 * grows;
    }
    if (end.look === 'hackle' && fromEdge < reach) {
      outline[i]! += walk[Math.round(fromEdge / STEP_UM)]!;
      rough[i] = 3 + 6 * rng();
    }
    if (end.look === 'lip' && fromEdge < wide.lip)
      outline[i]! += end.sizeUm * Math.cos((Math.PI / 2) * (fromEdge / wide.lip)) ** 2;
    if (end.look === 'chip' && fromEdge < wide.chip)
      outline[i]! -= 2 * end.sizeUm * Math.sqrt(1 - (fromEdge / wide.chip) ** 2);
  }
  if (end.look === 'broken') brokenShape(outline, rng);
  return { outline, rough };
}
/** Steps of a river pattern: plateaus of uneven width that rise and fall. */
function terraces(n: number, size: number, rng: Rng): Float32Array {
  const out = new Float32Array(n);
  let at = 0;
  let until = 0;
  for (let i = 0; i < n; i++) {
    if (i >= until) {
      at = normal(rng) * 0.35 * size;
      until = i + between(rng, 2.5, 11) / STEP_UM;
    }
    out[i] = at;
  }
  return out;
}
function fineGrain(n: number, rng: Rng): Float32Array {
  const out = new Float32Array(n);
  let a = 0;
  for (let i = 0; i < n; i++) {
    a = 0.7 * a + normal(rng) * 0.5;
    out[i] = a;
  }
  return out;
}
function brokenShape(outline: Float32Array, rng: Rng): void {
  let from = 0;
  let at = normal(rng) * 12;
  while (from < outline.length) {
    const to = Math.min(outline.length, from + Math.round(between(rng, 12, 45) / STEP_UM));
    const next = normal(rng) * 14;
    for (let i = from; i < to; i++)
      outline[i]! += at + ((next - at) * (i - from)) / (to - from) + normal(rng) * 0.6;
    at = rng() < 0.5 ? next : normal(rng) * 14;
    from = to;
  }
}
