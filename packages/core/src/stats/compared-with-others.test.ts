import { describe, expect, it } from 'vitest';
import { numbers } from '../numbers-for-tests.ts';
import { comparedWithOthers, type ComparedCell } from './index.ts';

const cell = (id: string, stratum: string, k: number, n: number, group = 'cleave'): ComparedCell => ({
  group,
  id,
  stratum,
  k,
  n,
});

describe('one against the others on comparable work', () => {
  it('finds the blunt tool, not the weak trainee who happens to use it', () => {
    // Trainee w passes half on every tool, the others nearly all; tool 3 is used by w most, and is as good as any.
    const innocent = ['1', '2', '3'].flatMap((id) => [
      cell(id, 'w', id === '3' ? 15 : 5, id === '3' ? 30 : 10),
      cell(id, 'x', 19, 20),
    ]);
    expect(comparedWithOthers(innocent).some((a) => a.differs)).toBe(false);
    const blunt = ['1', '2', '3'].flatMap((id) =>
      ['x', 'y', 'z'].map((s) => cell(id, s, id === '3' ? 12 : 19, 20)),
    );
    const found = comparedWithOthers(blunt);
    expect(found.filter((a) => a.differs && a.difference < 0).map((a) => a.id)).toEqual(['3']);
    expect(found.find((a) => a.id === '3')!.high).toBeLessThan(0);
  });
  it('compares within a group only, and leaves out who shares no stratum', () => {
    const found = comparedWithOthers([
      cell('1', 'x', 1, 2),
      cell('1', 'x', 2, 2, 'strip'),
      cell('2', 'y', 1, 2),
    ]);
    expect(found).toEqual([]);
    expect(comparedWithOthers([])).toEqual([]);
  });
  it('with nothing but chance at work a table in twenty carries a mark', () => {
    const next = numbers(5);
    let marked = 0;
    const rounds = 400;
    for (let round = 0; round < rounds; round++) {
      const cells = ['1', '2', '3', '4'].flatMap((id) =>
        Array.from({ length: 12 }, (_, s) => {
          const n = 6;
          let k = 0;
          for (let i = 0; i < n; i++) k += Number(next() < 0.85);
          return cell(id, String(s), k, n);
        }),
      );
      marked += Number(comparedWithOthers(cells).some((a) => a.differs));
    }
    // 5 % and four standard errors of it.
    expect(marked / rounds).toBeLessThan(0.05 + 4 * Math.sqrt((0.05 * 0.95) / rounds));
  });
});
