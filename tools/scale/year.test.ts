import { describe, expect, it } from 'vitest';
import { DEMO_SCHOOL, simulateYear } from './year.ts';

describe('a simulated year', () => {
  const one = simulateYear(DEMO_SCHOOL, 40, 3);
  it('has as many pieces as the model says, and what hangs on them', () => {
    const { classesAtOnce, traineesAClass, weeksAYear, piecesATraineeDay } = DEMO_SCHOOL;
    const wanted = 40 * classesAtOnce * traineesAClass * weeksAYear * 5 * piecesATraineeDay;
    // Poisson: 2,700 pieces a day are known to 2 %; five sigma.
    expect(Math.abs(one.pieces / wanted - 1)).toBeLessThan(0.1);
    expect(one.entries).toBe(one.pieces * DEMO_SCHOOL.entriesAPiece);
    expect(one.bytes).toBe(one.pieces * DEMO_SCHOOL.bytesAPiece);
  });
  it('has its peak above the mean of the day, and far below all entries at once', () => {
    const mean = one.entries / 200 / (DEMO_SCHOOL.dayMinutes * 60);
    expect(one.peakPerSecond).toBeGreaterThan(mean);
    expect(one.peakPerSecond).toBeLessThan(3 * mean);
  });
  it('is lower at its peak where schools lie in other zones of time', () => {
    expect(simulateYear(DEMO_SCHOOL, 40, 3, 11).peakPerSecond).toBeLessThan(one.peakPerSecond);
  });
  it('is the same from the same seed', () => {
    expect(simulateYear(DEMO_SCHOOL, 40, 3)).toEqual(one);
  });
});
