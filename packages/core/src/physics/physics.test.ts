import { describe, expect, it } from 'vitest';
import {
  bothDirections,
  faceReflectance,
  gapLossDb,
  gapReflectionDb,
  worstGapReflectance,
  jointLoss,
  multimodeMismatch,
  returnLossDb,
  stepFieldRadiusUm,
} from './index.ts';

const equal = {
  fromRadiusUm: 4.6,
  intoRadiusUm: 4.6,
  offsetUm: 0,
  tiltDeg: 0,
  index: 1.468,
  wavelengthNm: 1310,
};

/** Power coupling of two displaced, tilted Gaussian fields by summing over the plane: no closed form in it. */
function overlap(w1: number, w2: number, offset: number, tiltRad: number, index: number, um: number): number {
  const k = (2 * Math.PI * index) / um;
  const step = 0.05;
  const reach = 4 * Math.max(w1, w2);
  let re = 0;
  let im = 0;
  let p1 = 0;
  let p2 = 0;
  // The plane separates into x, where offset and tilt act, and y, where neither does.
  let y = 0;
  let y1 = 0;
  let y2 = 0;
  for (let x = -reach; x <= reach; x += step) {
    const a = Math.exp(-((x / w1) ** 2));
    const b = Math.exp(-(((x - offset) / w2) ** 2));
    re += a * b * Math.cos(k * tiltRad * x);
    im += a * b * Math.sin(k * tiltRad * x);
    p1 += a * a;
    p2 += b * b;
    const c = Math.exp(-((x / w2) ** 2));
    y += a * c;
    y1 += a * a;
    y2 += c * c;
  }
  return ((re * re + im * im) / (p1 * p2)) * ((y * y) / (y1 * y2));
}

describe('joint of two Gaussian modes', () => {
  // Common practice: 1 um off costs about 0.2 dB.
  it('an offset of 1 um at w = 4.6 um', () => {
    expect(jointLoss({ ...equal, offsetUm: 1 }).lossDb).toBeCloseTo((10 * Math.log10(Math.E)) / 4.6 ** 2, 12);
    expect(jointLoss({ ...equal, offsetUm: 1 }).lossDb).toBeCloseTo(0.205, 3);
  });

  it.each([
    [4.6, 4.6, 1, 0],
    [4.6, 5.2, 0, 0],
    [4.6, 5.2, 0.8, 0.4],
    [5.2, 4.2, 2, 1],
  ])('agrees with the overlap integral: w %f and %f, offset %f, tilt %f', (w1, w2, offset, tiltDeg) => {
    const joint = { ...equal, fromRadiusUm: w1, intoRadiusUm: w2, offsetUm: offset, tiltDeg };
    const summed = overlap(w1, w2, offset, (tiltDeg * Math.PI) / 180, equal.index, 1.31);
    // Tilted about the middle between two fields that are offset, only a phase differs: the power is the same.
    expect(jointLoss(joint).lossDb).toBeCloseTo(-10 * Math.log10(summed), 4);
  });

  it('the causes add up, and a perfect joint loses nothing', () => {
    const j = jointLoss({ ...equal, intoRadiusUm: 5, offsetUm: 0.7, tiltDeg: 0.5 });
    expect(j.mismatchDb + j.offsetDb + j.tiltDb).toBeCloseTo(j.lossDb, 14);
    expect(jointLoss(equal)).toEqual({ mismatchDb: 0, offsetDb: 0, tiltDb: 0, lossDb: 0 });
  });

  it('is the same from both sides', () => {
    const one = jointLoss({ ...equal, intoRadiusUm: 5.2, offsetUm: 1, tiltDeg: 0.3 }).lossDb;
    const other = jointLoss({ ...equal, fromRadiusUm: 5.2, offsetUm: 1, tiltDeg: 0.3 }).lossDb;
    expect(one).toBeCloseTo(other, 14);
  });

  it.each([
    { fromRadiusUm: 0 },
    { index: -1 },
    { wavelengthNm: Number.NaN },
    { offsetUm: Infinity },
    { tiltDeg: Number.NaN },
  ])('refuses %o', (bad) => {
    expect(() => jointLoss({ ...equal, ...bad })).toThrow('physics.out_of_domain');
  });
});

describe('gap and reflection', () => {
  it('a gap', () => {
    expect(gapLossDb(0, 4.6, 1, 1310)).toBe(0);
    const rayleigh = (Math.PI * 4.6 ** 2) / 1.31;
    // Half the power at twice the Rayleigh length: z / 2 zR = 1.
    expect(gapLossDb(2 * rayleigh, 4.6, 1, 1310)).toBeCloseTo(10 * Math.log10(2), 12);
    expect(() => gapLossDb(-1, 4.6, 1, 1310)).toThrow('physics.out_of_domain');
  });

  // Handbook figures, from memory: 3.5 % and about 14.4 to 14.7 dB from glass to air, 0.3 dB for both faces.
  it('glass to air', () => {
    const r = faceReflectance(1.468, 1);
    expect(r).toBeCloseTo(0.036, 3);
    expect(returnLossDb(r)).toBeCloseTo(14.4, 1);
    expect(gapReflectionDb(1.468, 1, false)).toBeCloseTo(0.32, 2);
    // Both faces in step: 2 r / (1 + r^2) of the amplitude; common practice for a gap at its worst is 8.7 dB of return loss.
    const amplitude = Math.sqrt(faceReflectance(1.468, 1));
    expect(worstGapReflectance(1.468, 1)).toBeCloseTo(
      ((2 * amplitude) / (1 + amplitude * amplitude)) ** 2,
      14,
    );
    expect(returnLossDb(worstGapReflectance(1.468, 1))).toBeCloseTo(8.7, 1);
    expect(worstGapReflectance(1.468, 1.468)).toBe(0);
    expect(() => worstGapReflectance(1.468, 0)).toThrow('physics.out_of_domain');
    expect(gapReflectionDb(1.468, 1, true)).toBeLessThan(gapReflectionDb(1.468, 1, false));
    expect(returnLossDb(0)).toBeNull();
    expect(gapReflectionDb(1.468, 1.468, true)).toBe(0);
  });

  it('bounces between the faces are a geometric series', () => {
    const r = faceReflectance(1.468, 1);
    let passed = 0;
    for (let n = 0; n < 60; n++) passed += (1 - r) ** 2 * r ** (2 * n);
    expect(gapReflectionDb(1.468, 1, true)).toBeCloseTo(-10 * Math.log10(passed), 12);
  });
});

describe('field radius of a step fiber', () => {
  // Marcuse 1977: at the cut-off, V = 2.405, the radius is 1.1 times the core's.
  it('near the cut-off', () => {
    const na = (2.4 * 1.31) / (2 * Math.PI * 4.1);
    expect(stepFieldRadiusUm(4.1, na, 1310) / 4.1).toBeCloseTo(1.1, 2);
    expect(stepFieldRadiusUm(4.1, 0.12, 1310)).toBeCloseTo(4.6, 1);
  });
  it('grows with the wavelength and refuses what the fit does not cover', () => {
    expect(stepFieldRadiusUm(4.1, 0.12, 1550)).toBeGreaterThan(stepFieldRadiusUm(4.1, 0.12, 1310));
    expect(() => stepFieldRadiusUm(25, 0.2, 850)).toThrow('physics.out_of_domain');
  });
});

describe('multimode mismatch', () => {
  // Common practice: 62.5 into 50 loses about 3 dB or more; the other way nearly nothing.
  it('62.5 into 50 and back', () => {
    const om1 = { coreUm: 62.5, aperture: 0.275 };
    const om3 = { coreUm: 50, aperture: 0.2 };
    expect(multimodeMismatch(om1, om3).lossDb).toBeCloseTo(1.938 + 2.766, 3);
    expect(multimodeMismatch(om3, om1)).toMatchObject({ lossDb: 0 });
    expect(multimodeMismatch(om3, om1).coreRatioDb).toBeCloseTo(-1.938, 3);
  });
});

describe('a splice from both sides', () => {
  it('a gainer one way', () => {
    const found = bothDirections(0.18, -0.06);
    expect(found).toMatchObject({ state: 'complete', gainer: true });
    expect(found.state === 'complete' && found.lossDb).toBeCloseTo(0.06, 12);
    expect(found.state === 'complete' && found.fieldStepDb).toBeCloseTo(0.12, 12);
  });
  it('keeps a negative mean, and has no value from one side', () => {
    expect(bothDirections(-0.05, 0.01)).toMatchObject({ lossDb: -0.02 });
    expect(bothDirections(0.1, null)).toEqual({ state: 'one_missing' });
  });
});
