import { describe, expect, it } from 'vitest';
import { dueOf, type RunningTimer } from './timers.model.ts';

const START = Date.parse('2026-03-02T10:00:00Z');
const timer = (least: number | null, most: number | null): RunningTimer => ({
  id: 't',
  attemptId: 'a',
  criterionId: 'c',
  classId: 'k',
  trainee: 'Ada Brookmere',
  label: 'Cure',
  startedAt: '2026-03-02T10:00:00Z',
  least,
  most,
});
const at = (t: RunningTimer, seconds: number) => dueOf(t, START + seconds * 1000);

describe('when a timer calls', () => {
  it('a minimum when it is reached', () => {
    const t = timer(30, null);
    expect(at(t, 29.9)).toMatchObject({ due: false, words: 'running' });
    expect(at(t, 30)).toMatchObject({ due: true, words: 'long enough', over: false });
    expect(at(t, 30).at).toBe(START + 30_000);
  });
  it('a maximum a tenth before it is over, at most half a minute', () => {
    expect(at(timer(null, 15), 13.4).due).toBe(false);
    expect(at(timer(null, 15), 13.5)).toMatchObject({ due: true, words: 'nearly over' });
    expect(at(timer(null, 15), 15.1)).toMatchObject({ over: true, words: 'over its limit' });
    expect(at(timer(null, 3600), 3569).due).toBe(false);
    expect(at(timer(null, 3600), 3570).due).toBe(true);
  });
  it('a band at its least, and again says when it is over', () => {
    expect(at(timer(900, 3600), 1000).words).toBe('long enough');
    expect(at(timer(900, 3600), 4000).words).toBe('over its limit');
  });
  it('never runs backwards on a changed clock', () => {
    expect(at(timer(30, null), -500).elapsed).toBe(0);
  });
});
