import { describe, expect, it } from 'vitest';
import { LAUNCH_JACKETS_MM, launchAdvice } from './launch.ts';

const cord = { coreUm: 50, jacketMm: 3, bendInsensitive: false, tenGigabit: false };

describe('the launch of a multimode test', () => {
  // TIA-568, five turns, from memory.
  it.each([
    [50, 3, 22],
    [50, 2, 23],
    [50, 0.9, 25],
    [62.5, 3, 17],
    [62.5, 2, 18],
    [62.5, 0.9, 20],
  ])('%s um in %s mm: five turns on %s mm', (coreUm, jacketMm, mandrelMm) =>
    expect(launchAdvice({ ...cord, coreUm, jacketMm })).toEqual({
      turns: 5,
      mandrelMm,
      notes: [],
      mandrelWill: true,
    }),
  );

  it('bends the fiber alike: a thinner jacket has a thicker mandrel, a smaller core a thicker one', () => {
    const falling = [...LAUNCH_JACKETS_MM].sort((a, b) => b - a);
    for (const coreUm of [50, 62.5]) {
      const on = falling.map((jacketMm) => launchAdvice({ ...cord, coreUm, jacketMm }).mandrelMm!);
      expect([...on].sort((a, b) => a - b)).toEqual(on);
    }
    for (const jacketMm of falling) {
      const [small, large] = [50, 62.5].map(
        (coreUm) => launchAdvice({ ...cord, coreUm, jacketMm }).mandrelMm!,
      );
      expect(small).toBeGreaterThan(large!);
    }
  });

  it('takes the nearest jacket', () => expect(launchAdvice({ ...cord, jacketMm: 2.9 }).mandrelMm).toBe(22));

  it('says that a bend-insensitive cord defeats the mandrel', () =>
    expect(launchAdvice({ ...cord, bendInsensitive: true })).toMatchObject({
      notes: ['bend_insensitive'],
      mandrelWill: false,
    }));

  it('asks for encircled flux for 50 um at 10 Gb/s, not for 62.5 um', () => {
    expect(launchAdvice({ ...cord, tenGigabit: true }).notes).toEqual(['encircled_flux']);
    expect(launchAdvice({ ...cord, tenGigabit: true, coreUm: 62.5 }).mandrelWill).toBe(true);
  });

  it('knows no mandrel for single-mode', () =>
    expect(launchAdvice({ ...cord, coreUm: 9 })).toMatchObject({ mandrelMm: null, mandrelWill: false }));
});
