import { faceCriteria } from '@clear-mark/core';
import { expect, it } from 'vitest';
import { type Judged, type Tally, tallyOf } from './tally-for-tests.ts';

export const PC = faceCriteria('sm-pc')!;

/** What a run of so few faces may fall short of what a set of hundreds shows: `bench faces` measures that. */
const SLACK = 0.05;

/** Tests of faces against what was drawn; each set has a file of its own, so that two are measured at once. */
export function heldToTruth(draw: () => Judged[]): void {
  let judged: Judged[];
  let tally: Tally;
  it('each is measured: centre within half a micrometre, scale within half a percent', () => {
    judged = draw();
    tally = tallyOf(judged, PC);
    expect(tally.refused).toBe(0);
    expect(tally.scale95).toBeLessThan(0.005);
    expect(tally.centre95Um).toBeLessThan(0.5);
  }, 600_000);
  it('defects', () => {
    expect(tally.defect.n).toBeGreaterThan(25);
    expect(tally.defect.recall).toBeGreaterThan(0.95 - SLACK);
    expect(tally.defect.precision).toBeGreaterThan(0.95 - SLACK);
    expect(tally.defect.medianError).toBeLessThan(0.1);
  });
  it('scratches', () => {
    expect(tally.scratch.n).toBeGreaterThan(15);
    expect(tally.scratch.recall).toBeGreaterThan(0.95 - SLACK);
    expect(tally.scratch.precision).toBeGreaterThan(0.95 - SLACK);
    expect(tally.scratch.medianError).toBeLessThan(0.1);
  });
  it('grades agree, and hardly a bad face passes', () => {
    expect(tally.agreement).toBeGreaterThan(0.95 - SLACK);
    expect(tally.falsePasses / tally.bad).toBeLessThan(0.02 + SLACK);
  });
}
