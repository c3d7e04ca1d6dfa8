import { describe, expect, it } from 'vitest';
import { actOn, type BenchAct, type BenchPiece, levelOf, lossOf, newBenchPiece, rngFrom } from './index.ts';

const done = (seed: number, ...acts: BenchAct[]): BenchPiece => {
  const rng = rngFrom(seed);
  return acts.reduce((piece, act) => actOn(piece, act, rng), newBenchPiece(rng));
};
const link: BenchAct = { act: 'connect', to: 'link' };

describe('the piece on the bench', () => {
  it('careless cleaves give worse splices than careful ones, in the estimate and in the light', () => {
    let bad = 0;
    let good = 0;
    let worse = 0;
    for (let seed = 1; seed <= 100; seed++) {
      const spliced = (care: number): BenchPiece =>
        done(
          seed,
          { act: 'cleave', side: 'left', care },
          { act: 'cleave', side: 'right', care },
          { act: 'fuse' },
          link,
        );
      const careless = spliced(0.1);
      const careful = spliced(0.95);
      bad += careless.joint!.estimateDb / 100;
      good += careful.joint!.estimateDb / 100;
      if (lossOf(careless, 1310)! > lossOf(careful, 1310)!) worse += 1;
    }
    expect(good).toBeLessThan(0.06);
    expect(bad).toBeGreaterThan(0.15);
    expect(worse).toBeGreaterThan(95);
  });

  it('a dirty face loses, and cleaning brings it back', () => {
    const dirty = done(3, link, { act: 'touch', end: 'far' });
    const clean = actOn(dirty, { act: 'clean', end: 'far' }, rngFrom(1));
    expect(lossOf(dirty, 1310)! - lossOf(clean, 1310)!).toBeGreaterThan(0.3);
  });

  it('a bend costs more at 1550', () => {
    const bent = done(4, link, { act: 'bend', radiusMm: 12 });
    expect(lossOf(bent, 1550)! - lossOf(bent, 1310)!).toBeGreaterThan(0.5);
  });

  it('a launch that was better mated after the reference makes the next loss too low', () => {
    const zero = done(5, { act: 'connect', to: 'reference' });
    const reference = levelOf(zero, 1310, 0)!;
    const disturbed = actOn(zero, { act: 'disturb', db: -0.6 }, rngFrom(1));
    expect(reference - levelOf(disturbed, 1310, 0)!).toBeCloseTo(-0.6, 12);
  });

  it('dark without a connection, through a broken fiber and without a source line', () => {
    expect(levelOf(done(6), 1310, 0)).toBeNull();
    const broken = done(6, link, { act: 'ports', far: [0, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12] });
    expect(lossOf(broken, 1310, 'a_b', 1)).toBeNull();
    expect(lossOf(broken, 1310, 'a_b', 2)).not.toBeNull();
    expect(levelOf(broken, 1625, 0, 'a_b', 2)).toBeNull();
  });

  it('the same seed gives the same piece', () => {
    const acts: BenchAct[] = [{ act: 'cleave', side: 'left', care: 0.5 }, { act: 'fuse' }];
    expect(done(9, ...acts)).toEqual(done(9, ...acts));
  });
});
