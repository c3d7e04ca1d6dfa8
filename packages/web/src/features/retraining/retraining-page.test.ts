// @vitest-environment happy-dom
import { type Plan, ROUTES } from '@clear-mark/contract';
import { DEFAULT_POLICY } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import {
  CLASS,
  freshPages,
  holds,
  id,
  openPage,
  pressAnywhere,
  settled,
  shows,
  TestServer,
} from '../../../test/page.ts';
import RetrainingPage from './RetrainingPage.vue';

freshPages();

const item = (more: object = {}) => ({
  id: id(40),
  traineeId: id(11),
  traineeName: 'Torvin Hale',
  skill: 'cleave',
  standing: 'retrain',
  evidence: { code: 'standing.fails_in_a_row', params: { fails: 2 } },
  behind: null,
  window: 'FFPFP',
  openedAt: '2026-03-02T10:00:00.000Z',
  closedAt: null,
  reopened: 0,
  minutesEach: 12,
  minutesFrom: 'drill',
  pieces: 6,
  minutes: null,
  drill: null,
  sessionId: null,
  ...more,
});
const session = { id: id(50), startsAt: '2030-05-02T08:30:00.000Z', minutes: 60, place: 'Old net loft' };
const server = (plan: Partial<Record<keyof Plan, unknown>>): TestServer =>
  new TestServer()
    .on(ROUTES.plan, { items: [], sessions: [], drills: [], ...plan })
    .on(ROUTES.classDetail, { name: 'Pier crew 1', policy: DEFAULT_POLICY, place: 'Old net loft' });
const page = () => openPage(RetrainingPage, { props: { classId: CLASS } });

describe('who practises what again', () => {
  it('waits with its shape', async () => {
    const answer = server({}).hold(ROUTES.plan, { items: [], sessions: [], drills: [] });
    const opened = await page();
    expect(opened.page.find('.el-skeleton').exists()).toBe(true);
    answer();
    await settled();
    expect(opened.page.text()).toContain('Nobody needs retraining.');
  });
  it('says what went wrong, and shows nothing that is not known', async () => {
    new TestServer();
    const opened = await page();
    expect(opened.page.get('[role=alert]').text()).toContain('does not answer');
    expect(opened.page.text()).not.toContain('Nobody needs retraining');
  });
  it('a need stands with its reason, its pieces and its time', async () => {
    server({ items: [item()] });
    const words = (await page()).page.get('[data-plan="Torvin Hale"]').text();
    expect(words).toMatch(/cleaving/);
    expect(words).toMatch(/6/);
    expect(words).toMatch(/72|1 h 12 min/);
  });
  it('a session that is too short for the busiest says by how much', async () => {
    server({ items: [item({ sessionId: session.id, pieces: 10 })], sessions: [session] });
    expect((await page()).page.get('[data-test=over]').text()).toContain(
      '1 h 00 min more than the session has',
    );
  });
  it('what was closed by the evidence is kept in sight', async () => {
    server({ items: [item({ closedAt: '2026-03-09T10:00:00.000Z' })] });
    const words = (await page()).page.text();
    expect(words).toContain('Closed by the evidence');
    expect(words).toContain('Torvin Hale, cleaving');
  });
});

describe('a session', () => {
  it('whose length is none is told at its field, and not sent; a good one is', async () => {
    const asked = server({ items: [item()] }).on(ROUTES.savePlanSession, {});
    const { page: shown, press, type } = await page();
    await press('Plan a session');
    await type('input[name=minutes]', 'two');
    await press('Save the session');
    await shows(shown, 'A number is needed.');
    await type('input[name=minutes]', '4');
    await shows(shown, '5 or more.');
    expect(shown.get<HTMLInputElement>('input[name=minutes]').element.value).toBe('4');
    expect(asked.of(ROUTES.savePlanSession)).toEqual([]);
    await type('input[name=minutes]', '90');
    await press('Save the session');
    await holds(() => expect(asked.of(ROUTES.savePlanSession)).toHaveLength(1));
    expect(asked.of(ROUTES.savePlanSession)[0]!.body).toMatchObject({ minutes: 90, place: 'Old net loft' });
    await holds(() => expect(shown.find('input[name=minutes]').exists()).toBe(false));
  });
  it('that was lost on its way stays open with what was typed', async () => {
    server({}).lose(ROUTES.savePlanSession);
    const { page: shown, press, type } = await page();
    await press('Plan a session');
    await type('input[name=place]', 'Boat shed');
    await press('Save the session');
    await shows(shown, 'The server does not answer');
    expect(shown.get<HTMLInputElement>('input[name=place]').element.value).toBe('Boat shed');
  });
  it('is given up only when that is meant', async () => {
    const asked = server({ sessions: [session] }).on(ROUTES.dropPlanSession, {});
    const { press } = await page();
    await press('Give the session up');
    expect(asked.of(ROUTES.dropPlanSession)).toEqual([]);
    await pressAnywhere('Give it up', '.el-popconfirm');
    expect(asked.of(ROUTES.dropPlanSession)).toHaveLength(1);
    // What came of it is asked for.
    expect(asked.of(ROUTES.plan)).toHaveLength(2);
  });
});
