import { describe, expect, it } from 'vitest';
import { type CablePath, findCable } from './cable-path.ts';
import type { EndStrip } from './end-strip.ts';
import { layerEdges } from './layer-edges.ts';

const PER_MM = 10;
const COLUMNS = 900;
const ROWS = 221;
const MIDDLE = 110;
/** Columns at which glass, coating, buffer and jacket of the painted end begin. */
const FROM = { glass: 150, coating: 230, buffer: 330, jacket: 450 } as const;

interface Painted {
  /** What each layer differs from paper by in its middle; its sides are darker by a fifth. */
  readonly buffer: number;
  readonly jacket: number;
  readonly radiusMm: number;
  /** How dark the shadow beside the cable is. */
  readonly shadow?: number;
  /** Another jacket so many rows beside. */
  readonly second?: number;
  /** How far towards the tip the jacket's edge is seen, columns, in a line so far beside the middle, mm. */
  readonly rim?: (awayMm: number) => number;
  readonly yarn?: boolean;
  readonly empty?: boolean;
}

/** A strip of paper with noise and a prepared end on it, drawn by hand in its own units. */
function painted(what: Painted): EndStrip {
  let state = 12345;
  const noise = (): number => {
    let sum = 0;
    for (let i = 0; i < 4; i++) {
      state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
      sum += state / 4294967296 - 0.5;
    }
    return 0.01 * sum;
  };
  const off = [0, 1, 2].map(() => new Float32Array(ROWS * COLUMNS));
  const jacketAt = (k: number, away: number, r: number): number | null => {
    const at = Math.abs(r - MIDDLE - away) / PER_MM;
    const from = FROM.jacket - (what.rim?.(at) ?? 0);
    return k < from || at > what.radiusMm ? null : what.jacket - 0.2 * (at / what.radiusMm) ** 4;
  };
  const own = (k: number, r: number): number => {
    if (what.empty) return 0;
    const jacket = jacketAt(k, 0, r) ?? (what.second === undefined ? null : jacketAt(k, what.second, r));
    if (jacket !== null) return jacket;
    const away = Math.abs(r - MIDDLE) / PER_MM;
    if (k >= FROM.buffer && k < FROM.jacket && away < 0.45) return what.buffer - 0.2 * (away / 0.45) ** 4;
    if (k >= FROM.coating && k < FROM.buffer && away < 0.13) return -0.35;
    if (k >= FROM.glass && k < FROM.coating && away < 0.1) return -0.2;
    const back = FROM.jacket - k;
    if (what.yarn && back > 0 && back < 50 && (r * 7 + Math.floor(k / 3) * 5) % 13 < 3 && away < 1.6)
      return -0.2;
    const below = (r - MIDDLE) / PER_MM;
    const shaded = k >= FROM.jacket && below > 0 && below < 1.7 * what.radiusMm;
    return shaded ? -(what.shadow ?? 0) : 0;
  };
  const differs = new Float32Array(ROWS * COLUMNS);
  for (let r = 0; r < ROWS; r++) {
    for (let k = 0; k < COLUMNS; k++) {
      const i = r * COLUMNS + k;
      const value = own(k, r);
      for (const plane of off) plane[i] = value + noise();
      differs[i] = Math.max(0, Math.abs(value) - 0.01);
    }
  }
  return {
    perMm: PER_MM,
    columns: COLUMNS,
    rows: ROWS,
    startMm: 0,
    axisMm: 36,
    sign: 1,
    off: [off[0]!, off[1]!, off[2]!],
    differs,
    glaring: new Float32Array(COLUMNS),
    noise: 0.01,
  };
}
const DARK: Painted = { buffer: -0.3, jacket: -0.6, radiusMm: 1.5 };
/** As light as the paper but for its sides, beside the shadow that it throws. */
const WHITE: Painted = { buffer: -0.3, jacket: 0.03, radiusMm: 1, shadow: 0.25 };

function pathOf(strip: EndStrip): CablePath {
  const found = findCable(strip);
  if (typeof found === 'string') throw new Error(found);
  return found.path;
}
const within = (value: number, wanted: number, off: number): void =>
  expect(Math.abs(value - wanted)).toBeLessThanOrEqual(off);

describe('a cable in a strip', () => {
  it.each([
    ['a dark one', DARK, 3],
    ['a white one beside its shadow', WHITE, 2],
    ['one with yarn over its buffer', { ...DARK, yarn: true }, 3],
  ])('%s is followed along its axis', (_, what, widthMm) => {
    const path = pathOf(painted(what));
    for (let k = FROM.jacket + 20; k < COLUMNS - 20; k += 40) within(path.middle[k]!, MIDDLE, 1);
    within(path.jacketMm!, widthMm, 0.15);
    within(path.thin!, FROM.glass, 10);
  });
  it('that comes in from the first columns is seen turned round', () => {
    const strip = painted(DARK);
    const turned = { ...strip, off: strip.off.map((p) => p.slice().reverse()) as unknown as EndStrip['off'] };
    const found = findCable({ ...turned, differs: strip.differs.slice().reverse() });
    expect(typeof found === 'string' ? found : found.strip.sign).toBe(-1);
    within(typeof found === 'string' ? 0 : found.path.jacket!, FROM.jacket, 10);
  });
  it('paper alone is none', () => expect(findCable(painted({ ...DARK, empty: true }))).toBe('no_cable'));
  it('two beside each other are told', () =>
    expect(findCable(painted({ ...DARK, radiusMm: 1, second: 55 }))).toBe('two_cables'));
});

describe('the layers of an end', () => {
  const edgesOf = (what: Painted, lean = 0): NonNullable<ReturnType<typeof layerEdges>> => {
    const strip = painted(what);
    return layerEdges(strip, pathOf(strip), () => lean)!;
  };
  it.each([
    ['dark', DARK],
    ['white', WHITE],
    ['with yarn', { ...DARK, yarn: true }],
  ])('begin where they were painted: %s', (_, what) => {
    const edges = edgesOf(what);
    // A column is read in its middle.
    within(edges.jacket!.column, FROM.jacket - 0.5, 0.6);
    within(edges.buffer!.column, FROM.buffer - 0.5, 1);
    within(edges.tip.column, FROM.glass - 0.5, 2);
  });
  it.each([-0.5, 0.5])('a rim seen aslant gives the edge at the axis: lean %s', (lean) => {
    // A tube of radius R ends at its axis; a line v beside it is seen at its rim, the root of R² - v² higher or lower.
    const rim = (away: number): number =>
      Math.abs(lean) * Math.sqrt(Math.max(0, 1.5 ** 2 - away ** 2)) * PER_MM;
    const { jacket } = edgesOf({ ...DARK, rim }, lean);
    within(jacket!.column, FROM.jacket - 0.5, 1.5);
    // Taken for a flat end it lies further out.
    const flat = edgesOf({ ...DARK, rim }, 0);
    expect(FROM.jacket - 0.5 - flat.jacket!.column).toBeGreaterThan(3);
  });
  it('what cannot be told is not said: two places that change alike', () => {
    const strip = painted(DARK);
    // A second buffer's edge: the coating grows as thick as a buffer for some mm before it.
    for (const plane of strip.off)
      for (let r = MIDDLE - 4; r <= MIDDLE + 4; r++) plane.fill(-0.3, r * COLUMNS + 240, r * COLUMNS + 270);
    const path = pathOf(strip);
    // The path knows that it goes on from there; without its word it is not said.
    within(layerEdges(strip, path, () => 0)!.buffer!.column, FROM.buffer - 0.5, 1);
    const edges = layerEdges(strip, { ...path, buffer: FROM.glass }, () => 0)!;
    expect(edges.buffer).toBeNull();
    expect(edges.jacket).not.toBeNull();
  });
});
