import { describe, expect, it } from 'vitest';
import type { GreyImage } from '../faces/pixels/image.ts';
import { angleOfLine } from './angle-of-line.ts';
import { firstFall } from './edge-profile.ts';
import { classOf, signsOf } from './face-class.ts';
import type { FaceLine } from './face-line.ts';
import { lineOfRows, noiseOf, shareOfRows } from './line-fit.ts';
import { measureCleave } from './measure-cleave.ts';
import { angleSdOfScreen } from './of-screen.ts';
import { middleLine, robustFit } from './robust.ts';

const degrees = (deg: number): number => Math.tan((deg * Math.PI) / 180);

interface Painted {
  readonly angleDeg?: number;
  readonly axisDeg?: number;
  readonly side?: 'left' | 'right';
  /** How far the face sticks out of its line at a place across it, -1 at the lower edge to 1, µm. */
  readonly outline?: (v: number) => number;
  /** Share of the light inside at a place from the middle, 0 to 1. */
  readonly inside?: (place: number) => number;
  readonly halfUm?: number;
  readonly umPerPx?: number;
  readonly light?: number;
  readonly end?: number;
}
const GLASS = (place: number): number => (place < 0.3 ? 0.85 : 0.12);

/** A fiber painted with soft edges of one pixel: no lens, no noise, so that its angle is the drawn one. */
function painted({
  angleDeg = 0,
  axisDeg = 0,
  side = 'left',
  outline = () => 0,
  inside = GLASS,
  halfUm = 62.5,
  umPerPx = 1,
  light = 200,
  end = 0.55,
}: Painted = {}): GreyImage {
  const width = 640;
  const height = 480;
  const data = new Uint8Array(width * height);
  const turn = (axisDeg * Math.PI) / 180;
  const sign = side === 'left' ? 1 : -1;
  const clamp = (t: number): number => Math.max(0, Math.min(1, t));
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const dx = (x - width * end) * umPerPx;
      const dy = (y - height / 2) * umPerPx;
      const s = sign * (dx * Math.cos(turn) - dy * Math.sin(turn));
      const v = -dx * Math.sin(turn) - dy * Math.cos(turn);
      const across = clamp((halfUm - Math.abs(v)) / umPerPx + 0.5);
      const along = clamp((degrees(angleDeg) * v + outline(v / halfUm) - s) / umPerPx + 0.5);
      const share = 1 + across * along * (inside(Math.abs(v) / halfUm) - 1);
      data[y * width + x] = Math.round(light * share);
    }
  }
  return { width, height, data };
}
/** A picture in which something dark lies before the light. */
function covered({ width, height, data }: GreyImage, isDark: (x: number, y: number) => boolean): GreyImage {
  return {
    width,
    height,
    data: data.map((level, i) => (isDark(i % width, Math.floor(i / width)) ? 14 : level)),
  };
}
function oneEnd(image: GreyImage) {
  const found = measureCleave(image);
  if (!found.ok) throw new Error(found.reason);
  expect(found.ends).toHaveLength(1);
  return { ...found, end: found.ends[0]! };
}

describe('a cleave from the side', () => {
  it.each([
    [0, 0, 'left'],
    [1, 0, 'left'],
    [-2.5, 3, 'left'],
    [0.6, -5, 'right'],
    [-1.4, 4, 'right'],
  ] as const)('an angle of %f° on an axis of %f°, from the %s', (angleDeg, axisDeg, side) => {
    const { end } = oneEnd(painted({ angleDeg, axisDeg, side }));
    expect(end.side).toBe(side);
    expect(end.class).toBe('mirror');
    // Closed form: the line that was painted.
    expect(end.angleDeg).toBeCloseTo(angleDeg, 1);
    expect(Math.abs(end.angleDeg! - angleDeg)).toBeLessThan(2 * end.angleSd!);
    expect(angleOfLine(end.face, end.axis, side)).toBeCloseTo(end.angleDeg!, 6);
  });

  it('photographed from a screen is believed as a camera that is 4° askew turns right angles', () => {
    // Closed form: the screen shortened to cos 4° along every direction, root mean square of what two lines at right angles turn by.
    const turns = Array.from({ length: 180 }, (_, deg) => {
      const n = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)] as const;
      const short = 1 - Math.cos((4 * Math.PI) / 180);
      const seen = (x: number, y: number): readonly [number, number] => {
        const along = short * (x * n[0] + y * n[1]);
        return [x - along * n[0], y - along * n[1]];
      };
      const a = seen(1, 0);
      const b = seen(0, 1);
      return (
        (Math.acos((a[0] * b[0] + a[1] * b[1]) / Math.hypot(...a) / Math.hypot(...b)) * 180) / Math.PI - 90
      );
    });
    const turned = Math.sqrt(turns.reduce((sum, t) => sum + t * t, 0) / turns.length);
    expect(angleSdOfScreen(0)).toBeCloseTo(turned, 2);
    expect(angleSdOfScreen(0.2)).toBeCloseTo(Math.hypot(0.2, turned), 2);
  });
  it('is found between blocks that hold it, and beside the points of electrodes', () => {
    const held = covered(painted({ angleDeg: 1.2 }), (x) => x < 55 || x > 595);
    expect(oneEnd(held).end.angleDeg).toBeCloseTo(1.2, 1);
    const tip = (x: number, y: number): boolean => Math.abs(x - 352) < 0.4 * (Math.abs(y - 240) - 115);
    expect(oneEnd(covered(painted({ angleDeg: 1.2 }), tip)).end.angleDeg).toBeCloseTo(1.2, 1);
  });
  it('is refused where another fiber goes across it', () => {
    const across = covered(painted({ angleDeg: 1.2 }), (x, y) => Math.abs(x - 150 - 0.5 * y) < 62);
    expect(measureCleave(across)).toEqual({ ok: false, reason: 'crossing' });
  });
  it('has its scale from the 125 µm of the glass', () => {
    for (const umPerPx of [0.5, 0.9, 1.6]) {
      const found = oneEnd(painted({ umPerPx, angleDeg: 0.5 }));
      expect(found.umPerPx / umPerPx).toBeGreaterThan(0.985);
      expect(found.umPerPx / umPerPx).toBeLessThan(1.015);
    }
  });

  it.each([
    ['mirror', () => 0],
    ['mist', (v: number) => (v < -0.4 ? 0.9 * Math.sin(v * 55) : 0)],
    ['hackle', (v: number) => (v < -0.3 ? 3 * Math.sin(v * 38) : 0)],
    ['lip', (v: number) => (v > 0.8 ? (v - 0.8) * 50 : 0)],
    ['chip', (v: number) => (v < -0.6 ? (v + 0.6) * 40 : 0)],
    ['broken', (v: number) => 14 * Math.sin(v * 9) + 6 * Math.sin(v * 31)],
  ] as const)('is called %s by its outline', (look, outline) => {
    const { end } = oneEnd(painted({ outline, angleDeg: 1, umPerPx: 0.7 }));
    expect(end.class).toBe(look);
    if (look === 'broken') expect([end.angleDeg, end.angleSd]).toEqual([null, null]);
    else expect(Math.abs(end.angleDeg! - 1)).toBeLessThan(Math.max(0.1, 2 * end.angleSd!));
  });

  it('a misty corner that lies back is no chip and tilts the line by nothing that matters', () => {
    const outline = (v: number): number => (v > 0.55 ? -0.45 - 0.45 * Math.sin(v * 45) : 0);
    const { end } = oneEnd(painted({ outline, umPerPx: 0.5, angleDeg: 1 }));
    expect(end.class).toBe('mist');
    expect(Math.abs(end.angleDeg! - 1)).toBeLessThan(0.06);
  });

  it('dirt on the face is seen, and moves its angle by nothing that matters', () => {
    const { end } = oneEnd(painted({ outline: (v) => (Math.abs(v - 0.55) < 0.06 ? 5 : 0) }));
    expect(end.isDirty).toBe(true);
    expect(Math.abs(end.angleDeg!)).toBeLessThan(0.1);
  });

  it('two ends that face each other are told apart, each with its own angle', () => {
    const left = painted({ angleDeg: 1.2, end: 0.48 });
    const right = painted({ angleDeg: -0.8, side: 'right', end: 0.54 });
    const data = left.data.map((level, i) => Math.min(level, right.data[i]!));
    const found = measureCleave({ ...left, data });
    expect(found.ok && found.ends.map((e) => [e.side, Number(e.angleDeg!.toFixed(1))])).toEqual([
      ['left', 1.2],
      ['right', -0.8],
    ]);
  });

  const flat = (level: number): GreyImage => ({
    width: 320,
    height: 240,
    data: new Uint8Array(320 * 240).fill(level),
  });
  it('is refused with the reason', () => {
    const reason = (image: GreyImage): string => {
      const found = measureCleave(image);
      return found.ok ? 'measured' : found.reason;
    };
    expect(reason(flat(180))).toBe('no_fiber');
    expect(reason(flat(10))).toBe('face_on');
    expect(reason(painted({ end: 1.4 }))).toBe('no_end');
    // Glass inside of its coating: two dark lines at half the width, the coating beside them grey.
    const coated = (place: number): number =>
      place < 0.42 ? 0.8 : place < 0.53 ? 0.2 : place < 0.97 ? 0.45 : 0.3;
    expect(reason(painted({ inside: coated, halfUm: 122, umPerPx: 1.1 }))).toBe('coated');
    const crossed = painted({ end: 1.4 });
    const data = crossed.data.map((level, i) => {
      const x = i % crossed.width;
      const y = Math.floor(i / crossed.width);
      return Math.abs(x - 320 - (y - 240) * 0.4) < 62 ? Math.min(level, 30) : level;
    });
    expect(['crossing', 'no_fiber']).toContain(reason({ ...crossed, data }));
    expect(() => measureCleave({ width: 10, height: 10, data: new Uint8Array(9) })).toThrow();
  });
});

describe('the angle of a line', () => {
  it('is positive when the upper corner sticks out further, on either side', () => {
    const up = 10;
    const out = up * degrees(5);
    const axis = (sign: number) =>
      [
        { x: 100 - sign * 50, y: 50 },
        { x: 100, y: 50 },
      ] as const;
    const face = (sign: number) =>
      [
        { x: 100, y: 60 },
        { x: 100 + 2 * sign * out, y: 40 },
      ] as const;
    expect(angleOfLine(face(1), axis(1), 'left')).toBeCloseTo(5, 9);
    expect(angleOfLine(face(-1), axis(-1), 'right')).toBeCloseTo(5, 9);
    const turned = [face(1)[1], face(1)[0]] as const;
    expect(angleOfLine(turned, axis(1), 'left')).toBeCloseTo(5, 9);
  });
});

describe('dirt on a face', () => {
  /** A flat face of 125 rows of 1 µm, off by so much over so many rows from a place on. */
  const faceWith = (rows: number, offUm: number, wave = 0): FaceLine => ({
    slope: 0,
    slopeSd: 0,
    at: 0,
    bulge: 0,
    spread: 0.1,
    half: 62.5,
    onLine: 1,
    rows: Array.from({ length: 125 }, (_, i) => ({
      v: i - 62,
      u: 0,
      off: i >= 80 && i < 80 + rows ? offUm : i < 50 ? wave * (i % 6 < 3 ? 1 : -1) : 0,
    })),
  });
  it('is as wide as it is high at least', () => {
    expect(signsOf(faceWith(9, 4), 1).hasDirt).toBe(true);
    expect(signsOf(faceWith(6, 7), 1).hasDirt).toBe(false);
  });
  it('is not what the flank of the bright band leaves beside another end', () => {
    expect(signsOf(faceWith(4, 2.5), 1).hasDirt).toBe(false);
  });
  it('is none where glass is missing beside it: steps of coarse hackle go out and in', () => {
    const line = faceWith(9, 4);
    const stepped = {
      ...line,
      rows: line.rows.map((r, i) => (i >= 89 && i < 97 ? { ...r, off: -3 } : r)),
    };
    expect(signsOf(line, 1).hasDirt).toBe(true);
    const signs = signsOf(stepped, 1);
    expect(signs.hasDirt).toBe(false);
    expect(classOf(signs, false)).toBe('hackle');
    expect(classOf(signsOf(line, 1), false)).toBe('mirror');
  });
  it('cannot be told on a face that is rough itself', () => {
    expect(signsOf(faceWith(9, 4, 0.05), 1).hasDirt).toBe(true);
    expect(signsOf(faceWith(9, 4, 1.3), 1).hasDirt).toBe(false);
  });
});

/** A narrow bright middle. */
const middleBright = (v: number): number => Math.exp(-((v / 0.3) ** 2));

describe('the fits', () => {
  it('of an edge is half-way between its light and its dark', () => {
    const levels = Float64Array.from([200, 200, 200, 200, 150, 50, 40, 40, 60]);
    const fall = firstFall(levels, 3, 20)!;
    expect(fall).toMatchObject({ light: 200, dark: 40 });
    // 120 lies three tenths of the way from 150 at 4 to 50 at 5.
    expect(fall.at).toBeCloseTo(4.3, 9);
    expect(firstFall(Float64Array.from([200, 199, 198, 200]), 2, 20)).toBeNull();
  });
  it('of a line by least squares where nothing is off: slope, height and their covariance by the textbook', () => {
    // Draper and Smith, Applied Regression Analysis, ch. 1, by hand: x = 1..5, y = 2, 4, 5, 4, 5 gives 2.2 + 0.6 x.
    const terms = [1, 2, 3, 4, 5].map((x) => [1, x]);
    const fit = robustFit(terms, [2, 4, 5, 4, 5], { rounds: 1 })!;
    expect(fit.coefficients[0]).toBeCloseTo(2.2, 9);
    expect(fit.coefficients[1]).toBeCloseTo(0.6, 9);
    expect(fit.inverse[1]![1]).toBeCloseTo(0.1, 9);
    expect(fit.inverse[0]![0]).toBeCloseTo(1.1, 9);
  });
  it('of a line is not moved by what lies far off it', () => {
    const xs = Array.from({ length: 60 }, (_, i) => i / 10);
    const ys = xs.map((x, i) => 3 - 0.5 * x + (i % 7 === 0 ? 40 : 0.02 * Math.sin(i)));
    expect(middleLine(xs, ys)[1]).toBeCloseTo(-0.5, 1);
    const fit = robustFit(
      xs.map((x) => [1, x]),
      ys,
      { start: [3, -0.5] },
    )!;
    expect(fit.coefficients[1]).toBeCloseTo(-0.5, 2);
  });
  it('of a face is not turned by a bright band that lies to one side, of any width', () => {
    // Closed form: rows on a line, those in the band read further out by as much as the fiber is bright there.
    for (const [from, to] of [
      [-0.75, 0.3],
      [-0.1, 0.2],
      [0.2, 0.6],
    ] as const) {
      const inBand = (v: number): number => (v > from && v < to ? 0.9 : 0);
      const vs = Array.from({ length: 101 }, (_, i) => i / 50 - 1);
      const us = vs.map((v, i) => 0.4 * v + 0.7 * inBand(v) + (i % 2 ? 0.03 : -0.03));
      const line = lineOfRows(vs, us, 0.05, inBand)!;
      expect(line.slope).toBeCloseTo(0.4, 1);
      expect(Math.abs(line.slope - 0.4)).toBeLessThan(0.01);
    }
  });
  it('of a face tilted towards the eye is not turned by a rough corner', () => {
    // Half of an ellipse 2 px high; the lowest fifth goes to and fro by half a pixel, round where it would be.
    const vs = Array.from({ length: 67 }, (_, i) => (i - 33) / 33.5);
    const us = vs.map((v, i) => 2 * Math.sqrt(1 - v * v) + (v < -0.6 ? [0.4, 0.5, -0.4, -0.5][i % 4]! : 0));
    const across = vs.slice(3, -3);
    const ends = us.slice(3, -3);
    const line = lineOfRows(across, ends, 0.12, middleBright, shareOfRows(across, ends, 0.12))!;
    expect(line.bulge).toBeCloseTo(2, 0);
    expect(Math.abs(line.slope)).toBeLessThan(0.03);
  });
  it('of the rows of a face is that of the part that is straight', () => {
    const vs = Array.from({ length: 101 }, (_, i) => (i - 50) / 50);
    const us = vs.map((v, i) => 0.8 * v + 0.03 * Math.sin(i * 2) + (v > 0.45 ? -(v - 0.45) * 30 : 0));
    const line = lineOfRows(vs, us, 0.05, middleBright)!;
    expect(line.slope).toBeCloseTo(0.8, 1);
    expect(line.weights.filter((w) => w < 0.2).length).toBeGreaterThan(20);
    expect(noiseOf([0, 0.1, 0, 0.1, 0])).toBeGreaterThan(0.05);
  });
});
