import type { PlanItem } from '@clear-mark/contract';
import { DEFAULT_POLICY } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { amountWords, planGroups, planned, typedWhole } from './plan.model.ts';

const item = (more: Partial<PlanItem> = {}): PlanItem => ({
  id: 'i',
  traineeId: 't',
  traineeName: 'Ines Marl',
  skill: 'cleave',
  standing: 'retrain',
  window: 'PPFPFF',
  evidence: { code: 'standing.fails_in_a_row', params: { fails: 2, n: 6 } },
  behind: null,
  openedAt: '',
  closedAt: null,
  reopened: 0,
  minutesEach: 4,
  minutesFrom: 'drill',
  pieces: null,
  minutes: null,
  drill: null,
  sessionId: null,
  ...more,
});

describe('the plan', () => {
  it('takes expected pieces and their time until an instructor sets others', () => {
    // Half pass: (0.5^-3 - 1) / 0.5 = 14 pieces to three in a row.
    expect(planned(item(), DEFAULT_POLICY, [])).toMatchObject({ piecesShown: 14, minutesShown: 56 });
    expect(planned(item({ pieces: 5 }), DEFAULT_POLICY, [])).toMatchObject({
      piecesShown: 5,
      minutesShown: 20,
    });
    expect(planned(item({ pieces: 5, minutes: 90 }), DEFAULT_POLICY, []).minutesShown).toBe(90);
    expect(planned(item({ drill: 'With the jig' }), DEFAULT_POLICY, []).drillShown.title).toBe(
      'With the jig',
    );
    // Nothing passed: a first round as long as the window; lapsed: the passes in a row again.
    expect(planned(item({ window: 'FFF' }), DEFAULT_POLICY, [])).toMatchObject({
      piecesShown: 10,
      firstRound: true,
    });
    expect(planned(item({ window: 'FFF', pieces: 4 }), DEFAULT_POLICY, []).firstRound).toBe(false);
    expect(planned(item({ standing: 'lapsed', window: 'PPP' }), DEFAULT_POLICY, []).piecesShown).toBe(3);
  });
  it('groups by session with bench time, what to lay out, and what does not fit', () => {
    const session = { id: 's', startsAt: '2026-03-19T09:00:00Z', minutes: 60, place: 'Bench 2' };
    const items = [
      item({ id: 'a', sessionId: 's', pieces: 10 }),
      item({ id: 'b', sessionId: 's', pieces: 10, skill: 'strip' }),
      item({ id: 'c', sessionId: 's', pieces: 3, traineeId: 'u' }),
      item({ id: 'd' }),
      item({ id: 'e', closedAt: '2026-03-18T09:00:00Z' }),
    ];
    const [loose, planned_] = planGroups({ items, sessions: [session], drills: [] }, DEFAULT_POLICY);
    expect(loose!.items.map((i) => i.id)).toEqual(['d']);
    // One trainee has 10 + 10 pieces of 4 minutes, the other works beside.
    expect(planned_).toMatchObject({ minutes: 80, overMinutes: 20 });
    expect(planned_!.consumables.map(amountWords)).toContain('46 lint-free wipes');
    expect(planGroups({ items: [], sessions: [], drills: [] }, DEFAULT_POLICY)).toEqual([]);
  });
  it('reads a whole number, nothing, or neither', () => {
    expect([typedWhole('6', 500), typedWhole('', 500), typedWhole('0', 500)]).toEqual([6, null, undefined]);
    expect([typedWhole('2.5', 500), typedWhole('x', 500), typedWhole('501', 500)]).toEqual([
      undefined,
      undefined,
      undefined,
    ]);
  });
});
