import type { Hand, Surroundings } from './hand.ts';
import { chance, normal, type Rng } from './rng.ts';

/** What became of one connector: the facts, from which an instructor reads values. */
export interface Workpiece {
  readonly jacketMm: number;
  readonly bareMm: number;
  readonly bites: number;
  readonly wipes: number;
  readonly bootOn: boolean;
  readonly coatingLeft: boolean;
  readonly cleaveLengthMm: number;
  readonly cleaveAngleDeg: number;
  readonly cleaveFace: 'mirror' | 'mist' | 'lip' | 'hackle' | 'chip';
  readonly insertSeconds: number;
  readonly bow: boolean;
  readonly home: boolean;
  readonly endFace: 'clean' | 'marks-outside' | 'dirty' | 'damaged';
  /** True loss of the finished connection by wavelength, dB, before any error of the reference. */
  readonly lossDb: Readonly<Record<1310 | 1550, number>>;
}

/**
 * A simulated connector. The causes run as on the bench: a long cleave bows early and does not seat, a steep
 * cleave and dirt cost loss, a fiber that is not home leaves a gap.
 */
export function makeConnector(hand: Hand, around: Surroundings, rng: Rng): Workpiece {
  const cleaveLengthMm = normal(rng, 10.5 + hand.cleaveLengthBiasMm, hand.cleaveLengthSpreadMm);
  // Angles are skewed to the right: a log-normal whose median is the hand's, times the blade's wear.
  const cleaveAngleDeg = hand.cleaveAngleDeg * around.cleaverWear * Math.exp(normal(rng, 0, 0.35));
  const cleaveFace = faceOf(cleaveAngleDeg, around.cleaverWear, rng);
  const off = Math.abs(cleaveLengthMm - 10.5);
  const bow = !chance(rng, off > 0.5 ? 0.45 : hand.slip * 0.6);
  const home = bow && !chance(rng, hand.slip * 0.35);
  const dirt = chance(rng, hand.leavesDirt);
  const endFace = dirt
    ? 'dirty'
    : chance(rng, 0.04)
      ? 'marks-outside'
      : chance(rng, 0.006)
        ? 'damaged'
        : 'clean';
  const base =
    0.14 +
    Math.abs(normal(rng, 0, 0.06)) +
    0.05 * cleaveAngleDeg ** 2 +
    (cleaveFace === 'mirror' ? 0 : 0.08) +
    (home ? 0 : 0.35 + Math.abs(normal(rng, 0, 0.3))) +
    (endFace === 'dirty' ? 0.12 + Math.abs(normal(rng, 0, 0.12)) : endFace === 'damaged' ? 0.3 : 0);
  return {
    jacketMm: normal(rng, 70 + hand.stripBiasMm, hand.stripSpreadMm),
    bareMm: normal(rng, 40 + hand.stripBiasMm * 0.5, hand.stripSpreadMm * 0.5),
    bites: chance(rng, hand.slip * 0.5) ? 1 : 4 + Math.floor(rng() * 5),
    wipes: chance(rng, hand.leavesDirt * 0.4) ? 3 : 1 + Math.floor(rng() * 2),
    bootOn: !chance(rng, hand.forgetsBoot),
    coatingLeft: chance(rng, hand.slip * 0.3),
    cleaveLengthMm,
    cleaveAngleDeg,
    cleaveFace,
    insertSeconds: 25 + 60 * rng() + 200 * hand.slip * rng(),
    bow,
    home,
    endFace,
    lossDb: {
      1310: base + normal(rng, 0, 0.01),
      1550: base * 0.92 + normal(rng, 0, 0.01) + (chance(rng, hand.testSlip * 0.15) ? 0.6 : 0),
    },
  };
}

function faceOf(angleDeg: number, wear: number, rng: Rng): Workpiece['cleaveFace'] {
  const bad = 0.02 + Math.max(0, angleDeg - 0.8) * 0.12 + (wear - 1) * 0.03;
  if (!chance(rng, bad)) return chance(rng, 0.05) ? 'mist' : 'mirror';
  const roll = rng();
  return roll < 0.4 ? 'lip' : roll < 0.75 ? 'hackle' : 'chip';
}
