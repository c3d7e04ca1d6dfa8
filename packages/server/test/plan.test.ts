import type { Person, Plan, Results, WhatIfJob } from '@clear-mark/contract';
import { DEFAULT_POLICY, type MethodSheet, replayOf, unpackEntries } from '@clear-mark/core';
import { SCENARIO } from '@clear-mark/demo';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Caller, World } from './harness.ts';
import { DEMO_NOW, demoTemplate } from './demo-template.ts';

const NOW = DEMO_NOW;
const ASKS = ['retrain', 'lapsed', 'watch'];
let world: World;
let api: Caller;
let classId: string;
const at = (path: string): string => `/classes/${classId}${path}`;
const plan = async (): Promise<Plan> => (await api.get(at('/plan'))).body;

beforeAll(async () => {
  world = await World.make(() => NOW, await demoTemplate());
  classId = (await world.db('classes').where({ name: SCENARIO.className }).pluck('id'))[0];
  const lead: Person = await world.person('lead');
  api = await world.signedIn(lead);
});
afterAll(() => world.close());

/** Further outcomes of a skill, laid out as signing does. */
async function add(traineeId: string, skill: string, marks: string): Promise<void> {
  const [like] = await world.db('outcome_skills').where({ class_id: classId, trainee_id: traineeId, skill });
  const attempt = await world.db('attempts').where({ id: like.attempt_id }).first();
  for (const [i, mark] of [...marks].entries()) {
    const id = v7();
    const started_at = new Date(NOW.getTime() + i * 1000 + 1);
    await world.db('attempts').insert({ ...attempt, id, started_at, schools: {}, link: null });
    await world.db('outcome_skills').insert({ ...like, attempt_id: id, mark, started_at });
  }
}

describe('the plan of retraining', () => {
  it('has an item for each standing that asks for something, the most urgent first', async () => {
    const { standings } = (await api.get(at('/results'))).body as Results;
    const wanted = standings.flatMap((s) =>
      s.cells.filter((c) => ASKS.includes(c.standing)).map((c) => `${s.traineeName} ${c.skill}`),
    );
    const { items } = await plan();
    expect(items.map((i) => `${i.traineeName} ${i.skill}`).sort()).toEqual(wanted.sort());
    const ranks = items.map((i) => ASKS.indexOf(i.standing));
    expect(ranks).toEqual([...ranks].sort((a, b) => a - b));
    expect(items.every((i) => i.minutesEach > 0 && i.closedAt === null && i.reopened === 0)).toBe(true);
    // Looked at again it is the same plan.
    expect((await plan()).items.map((i) => i.id)).toEqual(items.map((i) => i.id));
    const both = await Promise.all([plan(), plan()]);
    expect(both[0].items).toEqual(both[1].items);
  });

  it('closes itself when the evidence is there, and opens again when it goes', async () => {
    const [item] = (await plan()).items;
    await add(item!.traineeId, item!.skill, 'PPP');
    const closed = (await plan()).items.find((i) => i.id === item!.id)!;
    expect(closed).toMatchObject({ closedAt: NOW.toISOString(), standing: 'competent' });
    expect((await plan()).items.at(-1)!.id).toBe(item!.id);
    await world
      .db('outcome_skills')
      .where({ trainee_id: item!.traineeId })
      .where('started_at', '>', NOW)
      .del();
    const again = (await plan()).items.find((i) => i.id === item!.id)!;
    expect(again).toMatchObject({ closedAt: null, reopened: 1 });
  });

  it('is edited, put into a session, and exported as a calendar', async () => {
    const [item, other] = (await plan()).items;
    const session = v7();
    const place = 'Bench 4; left, by the oven';
    const when = { startsAt: '2026-03-19T09:00:00.000Z', minutes: 90, place };
    expect((await api.put(at(`/plan/sessions/${session}`), when)).status).toBe(200);
    const edit = { pieces: 6, minutes: 40, drill: 'Cleaves only,\nwith the jig', sessionId: session };
    expect((await api.put(at(`/plan/items/${item!.id}`), edit)).status).toBe(200);
    const found = await plan();
    expect(found.items.find((i) => i.id === item!.id)).toMatchObject(edit);
    expect(found.sessions).toEqual([{ id: session, ...when }]);

    const ics = (await api.get(at('/plan.ics'))).body as unknown as string;
    const unfolded = ics.replace(/\r\n[ \t]/g, '');
    expect(ics.startsWith('BEGIN:VCALENDAR\r\nVERSION:2.0')).toBe(true);
    expect(unfolded).toContain('DTSTART:20260319T090000Z');
    expect(unfolded).toContain('DTEND:20260319T103000Z');
    expect(unfolded).toContain('LOCATION:Bench 4\\; left\\, by the oven');
    expect(unfolded).toContain(`${item!.traineeName}: `);
    expect(unfolded).toContain('6 pieces');
    // RFC 5545 3.1: no line of more than 75 octets.
    for (const line of ics.split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75);

    const nowhere = await api.put(at(`/plan/items/${other!.id}`), { ...edit, sessionId: v7() });
    expect([nowhere.status, nowhere.problem.code]).toEqual([404, 'not_found.plan_item']);
    expect((await api.put(at(`/plan/items/${v7()}`), edit)).problem.code).toBe('not_found.plan_item');
    expect((await api.put(at(`/plan/items/${item!.id}`), { ...edit, pieces: 0 })).status).toBe(422);
    expect((await api.call('DELETE', at(`/plan/sessions/${session}`))).status).toBe(200);
    expect((await plan()).items.find((i) => i.id === item!.id)).toMatchObject({ sessionId: null, pieces: 6 });
    expect((await api.call('DELETE', at(`/plan/sessions/${session}`))).problem.code).toBe(
      'not_found.plan_item',
    );
  });
});

describe('what if', () => {
  const NOTHING = { label: 'as it is', passMark: null, limit: null, policy: null };
  const LOSS = { criterionId: 'clear-mark/lc-wedge-locator/loss', min: null, max: 0.35 };
  const wait = async (id: string): Promise<WhatIfJob> => {
    for (;;) {
      const job = (await api.get(at(`/what-if/${id}`))).body as WhatIfJob;
      if (job.state !== 'running') return job;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  };

  it('as it is, every attempt comes out as it was signed', async () => {
    const pages = [];
    let after: string | null = null;
    do {
      const query: string = after === null ? '' : `&after=${encodeURIComponent(after)}`;
      const page = (await api.get(at(`/replay?size=300${query}`))).body as never as {
        attempts: Parameters<ReturnType<typeof replayOf>['add']>[0][];
        versions: { id: string; sheet: MethodSheet }[];
        references: Parameters<ReturnType<typeof replayOf>['add']>[1];
        total: number;
        next: string | null;
      };
      pages.push(page);
      after = page.next;
    } while (after !== null);
    const sheets = new Map(pages.flatMap((p) => p.versions.map((v) => [v.id, v.sheet] as const)));
    const replay = replayOf(sheets, DEFAULT_POLICY, [NOTHING]);
    for (const page of pages) {
      for (const a of page.attempts) {
        const entries = unpackEntries(a.entries as never);
        replay.add({ ...a, entries }, page.references);
      }
    }
    const [found] = replay.results(NOW.getTime());
    const { skills, signed } = (await api.get(at('/results'))).body as Results;
    expect(found!.attempts).toBe(signed);
    expect(pages[0]!.total).toBe(signed);
    expect(found!.changed).toBe(0);
    for (const { skill, summary } of skills) {
      expect(found!.skills.find((s) => s.skill === skill)!.before).toEqual(summary.rate);
    }
  });

  it('a job tells who a tighter loss limit would have failed, by two settings side by side', async () => {
    const id = v7();
    const started = await api.post(at('/what-if'), {
      id,
      filter: {},
      settings: [NOTHING, { ...NOTHING, label: '0.35 dB', limit: LOSS }],
    });
    expect(started.status).toBe(200);
    const job = await wait(id);
    expect(job.state).toBe('done');
    expect(job.done).toBe(job.total);
    const [same, tight] = job.results;
    expect(same!.changed).toBe(0);
    expect(tight!.newlyFailed).toBeGreaterThan(0);
    expect(tight!.newlyPassed).toBe(0);
    // By hand: pieces that passed with a loss over 0.35 dB at some wavelength can only fail now.
    const over = await world.db.raw(
      `select count(distinct l.attempt_id)::int as n from outcome_losses l
         join outcome_skills w on w.attempt_id = l.attempt_id and w.skill = 'whole' and w.mark in ('P', 'p')
        where l.class_id = ? and l.loss_db > 0.35`,
      [classId],
    );
    expect(tight!.newlyFailed).toBeLessThanOrEqual(over.rows[0].n);
    expect(tight!.changes[0]!.traineeName.length).toBeGreaterThan(3);
  });

  it('one at a time, cancelled when asked, and bad settings refused before anything begins', async () => {
    const slow = { filter: {}, settings: [{ ...NOTHING, limit: LOSS }] };
    const id = v7();
    await api.post(at('/what-if'), { ...slow, id });
    const second = await api.post(at('/what-if'), { ...slow, id: v7() });
    expect(second.problem.code).toBe('what_if.too_many');
    expect((await api.call('DELETE', at(`/what-if/${id}`))).status).toBe(200);
    expect((await wait(id)).state).toBe('cancelled');
    expect((await api.call('DELETE', at(`/what-if/${id}`))).problem.code).toBe('not_found.job');
    // What is a day old is not kept.
    await world
      .db('what_if_jobs')
      .where({ id })
      .update({ at: new Date(0) });
    const next = v7();
    expect((await api.post(at('/what-if'), { ...slow, id: next })).status).toBe(200);
    expect((await wait(next)).state).toBe('done');
    expect((await api.get(at(`/what-if/${id}`))).problem.code).toBe('not_found.job');
    const bad = (setting: object) =>
      api.post(at('/what-if'), { id: v7(), filter: {}, settings: [{ ...NOTHING, ...setting }] });
    const crossed = await bad({ policy: { ...DEFAULT_POLICY, pGood: 0.5 } });
    expect(crossed.problem.code).toBe('policy.rates_crossed');
    expect((await bad({ passMark: 120 })).status).toBe(422);
    expect((await api.get(at(`/what-if/${v7()}`))).problem.code).toBe('not_found.job');
  });
});
