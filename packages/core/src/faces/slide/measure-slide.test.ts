import { describe, expect, it } from 'vitest';
import { type GreyImage, measureSlide } from '../index.ts';

interface Ruled {
  readonly pitchPx: number;
  readonly degrees: number;
  /** Share of the pitch that a line is wide. */
  readonly duty: number;
  readonly noise: number;
  readonly bright: boolean;
  /** Every so many lines one is as long as the picture; the others reach over half of it. */
  readonly longEach: number | null;
  /** Places of the lines off their even ones, as a share of the pitch. */
  readonly unevenBy: number;
  readonly slope: number;
}
const PLAIN: Ruled = {
  pitchPx: 25,
  degrees: 0,
  duty: 0.2,
  noise: 3,
  bright: false,
  longEach: null,
  unevenBy: 0,
  slope: 0,
};
const randomAt = (x: number, y: number): number => {
  const hash = Math.sin(12.9898 * x + 78.233 * y) * 43_758.5453;
  return hash - Math.floor(hash);
};

/** A slide as a lens shows it: soft lines on glass. */
function slide(more: Partial<Ruled>, width = 640, height = 480): GreyImage {
  const r = { ...PLAIN, ...more };
  const cos = Math.cos((r.degrees * Math.PI) / 180);
  const sin = Math.sin((r.degrees * Math.PI) / 180);
  const data = Uint8Array.from({ length: width * height }, (_, i) => {
    const x = (i % width) - width / 2;
    const y = Math.floor(i / width) - height / 2;
    const along = x * cos + y * sin;
    const number = Math.round(along / r.pitchPx);
    const at = (number + r.unevenBy * (randomAt(number, 7) - 0.5)) * r.pitchPx;
    const across = -x * sin + y * cos;
    const isLong = r.longEach === null || number % r.longEach === 0;
    const inLine = isLong || Math.abs(across) < height / 4;
    const edge = (r.duty * r.pitchPx) / 2 - Math.abs(along - at);
    const line = inLine ? 1 / (1 + Math.exp(-edge / 0.8)) : 0;
    const level = r.bright ? 60 + 120 * line : 190 - 120 * line;
    const noise = (randomAt(x, y) + randomAt(x + 991, y) - 1) * 2 * r.noise;
    return Math.max(0, Math.min(255, Math.round(level + r.slope * x + noise)));
  });
  return { width, height, data };
}
const measured = (more: Partial<Ruled>, divisionUm = 10) => {
  const found = measureSlide(slide(more), divisionUm);
  if (!found.ok) throw new Error(found.reason);
  return found;
};

const NOISE: GreyImage = {
  width: 400,
  height: 300,
  data: Uint8Array.from({ length: 120_000 }, (_, i) => 80 + 90 * randomAt(i % 400, Math.floor(i / 400))),
};

describe('the scale by a calibration slide', () => {
  it.each([
    ['straight', {}],
    ['turned', { degrees: 17.3 }],
    ['upright', { degrees: 88.6 }],
    ['turned the other way', { degrees: -41 }],
    ['fine', { pitchPx: 9.37, duty: 0.35 }],
    ['wide', { pitchPx: 71.8, duty: 0.08 }],
    ['bright lines on dark glass', { bright: true, degrees: 5 }],
    ['longer lines among shorter ones', { longEach: 5, degrees: 3 }],
    ['noisy', { noise: 25, degrees: 8 }],
    ['in light that falls off', { slope: 0.12, degrees: 30 }],
  ] as const)('%s lines give it to half a thousandth', (_, more) => {
    const found = measured(more);
    const truth = 10 / (('pitchPx' in more ? more.pitchPx : undefined) ?? PLAIN.pitchPx);
    expect(Math.abs(found.umPerPx / truth - 1)).toBeLessThan(5e-4);
    expect(found.uncertainty).toBeLessThan(1e-3);
    const turned = (('degrees' in more ? more.degrees : undefined) ?? 0) - found.degrees;
    expect(Math.abs(turned - 180 * Math.round(turned / 180))).toBeLessThan(0.1);
  });

  it('goes with the division of the slide', () =>
    expect(measured({}, 50).umPerPx / measured({}, 10).umPerPx).toBeCloseTo(5, 9));

  it('says how sure it is: the truth lies within it where lines are ruled unevenly', () => {
    const pitches = Array.from({ length: 16 }, (_, i) => 12 + 0.73 * i);
    const within = pitches.filter((pitchPx) => {
      const found = measureSlide(slide({ pitchPx, unevenBy: 0.12 }, 400, 120), 10);
      return found.ok && Math.abs((found.umPerPx * pitchPx) / 10 - 1) <= found.uncertainty;
    });
    expect(within.length).toBeGreaterThanOrEqual(13);
  });

  it.each([
    ['noise alone', NOISE, 'no_lines'],
    [
      'one edge',
      {
        width: 300,
        height: 200,
        data: Uint8Array.from({ length: 60_000 }, (_, i) => (i % 300 < 140 ? 50 : 200)),
      },
      'no_lines',
    ],
    ['a flat picture', { width: 300, height: 200, data: new Uint8Array(60_000).fill(90) }, 'no_lines'],
    ['lines that lie unevenly', slide({ pitchPx: 30, duty: 0.15, unevenBy: 0.3 }), 'uneven_lines'],
  ] as const)('%s gives none', (_, image, reason) =>
    expect(measureSlide(image, 10)).toEqual({ ok: false, reason }),
  );

  it('a grid of two directions gives none', () => {
    const one = slide({});
    const other = slide({ degrees: 90 });
    const data = one.data.map((v, i) => Math.min(v, other.data[i]!));
    expect(measureSlide({ ...one, data }, 10)).toEqual({ ok: false, reason: 'no_lines' });
  });
  it('needs a division', () => {
    for (const bad of [0, -10, Number.NaN, Infinity]) {
      expect(() => measureSlide(slide({}), bad)).toThrow('face.bad_division');
    }
  });
});
