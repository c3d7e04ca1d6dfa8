// @vitest-environment happy-dom
import { ROUTES } from '@clear-mark/contract';
import { instantOf, planFaults, searchPlan } from '@clear-mark/core';
import { rngFrom } from '@clear-mark/sim';
import { describe, expect, it, vi } from 'vitest';
import { detail } from '../../../test/class-detail.ts';
import { CLASS, freshPages, holds, id, openPage, settled, TestServer } from '../../../test/page.ts';
import { useClassroom } from '../../classroom/use-classroom.ts';
import { wallTime } from '../../shared/wall-time.ts';
import { dayForTests, ITEMS, METHODS, names, thing } from './day-for-tests.ts';
import NowPanel from './now/NowPanel.vue';
import OvenStrip from './now/OvenStrip.vue';
import OwnDays from './OwnDays.vue';
import { boardRows } from './plan/board.model.ts';
import { type FromNow, wantedOf } from './plan/day-draft.model.ts';
import DayBoard from './plan/DayBoard.vue';
import DayFindings from './plan/DayFindings.vue';
import DayPieces from './plan/DayPieces.vue';
import DaySetup from './plan/DaySetup.vue';
import DifferentDialog from './plan/DifferentDialog.vue';

freshPages();

const DAY = dayForTests();
const clock = (minute: number): string => `${minute}′`;
const rows = boardRows(DAY, names, { wrong: new Set(), moved: new Set() });

describe('the board', () => {
  const board = () => openPage(DayBoard, { props: { day: DAY, rows, clock, now: 12 } });
  it('says each block, moves it by the arrows and turns its lock by Enter', async () => {
    const { page } = await board();
    const block = page.get('g.block.work');
    expect(block.attributes('aria-label')).toMatch(/^(Ada Norr|Bo Vint): .+, \d+′ to \d+′$/);
    const from = rows[0]!.blocks.find((b) => b.kind === 'work')!.from;
    await block.trigger('keydown', { key: 'ArrowRight' });
    await block.trigger('keydown', { key: 'ArrowRight', shiftKey: true });
    await block.trigger('keydown', { key: 'ArrowUp' });
    await block.trigger('keydown', { key: 'Enter' });
    const moved = page.findComponent(DayBoard).emitted('move') as unknown as [unknown, number][];
    expect(moved.map((m) => m[1])).toEqual([from + 1, from + 5]);
    expect(page.findComponent(DayBoard).emitted('lock')).toHaveLength(1);
  });
  it('a cure is seen in its trainee’s row and moved in its oven’s', async () => {
    const { page } = await board();
    expect(page.get('g.block.cure').classes()).not.toContain('movable');
    expect(page.get('g.block.load').classes()).toContain('movable');
    await page.get('g.block.load').trigger('focus');
    expect(page.get('.chosen').text()).toContain('25 min, hanging: Ada Norr, Bo Vint');
    await page.get('[data-test=lock]').trigger('click');
    expect(page.findComponent(DayBoard).emitted('lock')).toHaveLength(1);
  });
});

describe('what there is to say of a plan', () => {
  const findings = (more: object) =>
    openPage(DayFindings, {
      props: {
        day: DAY,
        items: ITEMS,
        shorts: new Map(),
        faults: [],
        over: 0.124,
        moved: [],
        tried: null,
        clashes: [],
        busy: false,
        names,
        clock,
        tookMs: 1200,
        ...more,
      },
    });
  it('how good it is', async () => {
    const { page } = await findings({});
    expect(page.get('[data-test=bound]').text()).toBe(
      '4 of 4 pieces planned, at the most 12 % longer than any plan has to be, found in 1.2 s.',
    );
    const best = await findings({ over: 0, tookMs: null });
    expect(best.page.get('[data-test=bound]').text()).toBe(
      '4 of 4 pieces planned, and no plan of them can end earlier.',
    );
  });
  it('what is left out, why, and what would help', async () => {
    const bare = { ...DAY, ovens: [] };
    const plan = searchPlan(wantedOf({ ...bare, plan: null }), { tries: 5, random: rngFrom(1) });
    const day = { ...bare, plan };
    const { page } = await findings({ day });
    const left = page.get('[data-test=left]');
    expect(left.text()).toContain(
      '2 × Glued (Ada Norr, Bo Vint): no oven of this day takes connectors hanging',
    );
    await left.get('[data-test=what-would]').trigger('click');
    expect(page.findComponent(DayFindings).emitted('askChanges')).toHaveLength(1);
    const tried = [
      { change: { change: 'hour' }, left: 2, endsAt: 80 },
      { change: { change: 'oven' }, left: 0, endsAt: 90 },
    ];
    const told = (await findings({ day, tried })).page;
    expect(told.get('[data-test=fits]').text()).toBe(
      'Everything fits with one more oven. It ends at 90′ then.',
    );
    expect(told.text()).toContain('with an hour longer: 2 are still left out');
  });
  it('conflicts with one tap to fit, clashes, moves and what the stock does not reach', async () => {
    const plan = {
      ...DAY.plan!,
      work: DAY.plan!.work.map((w) => ({ ...w, from: w.from + 300, to: w.to + 300 })),
    };
    const { page } = await findings({
      faults: planFaults(wantedOf(DAY), plan),
      clashes: [{ thingId: 's1', label: 'Splicer 1', className: 'Pier crew 2' }],
      moved: [{ pieceId: 'x', step: 0, from: 3, was: 1 }],
      day: { ...DAY, plan: { ...DAY.plan!, left: ['a-v-glued'] } },
      shorts: new Map([['a-v-glued', ['primer']]]),
    });
    await page.get('[data-test=fit]').trigger('click');
    expect(page.findComponent(DayFindings).emitted('fit')).toHaveLength(1);
    expect(page.get('[data-test=clash]').text()).toContain('Splicer 1 is planned in Pier crew 2');
    expect(page.get('[data-test=moved]').text()).toContain('One step lies elsewhere');
    expect(page.get('[data-test=left]').text()).toContain(
      '1 × Glued (Ada Norr): not enough that is good of Primer: enter a new lot in Stock',
    );
  });
});

describe('what a day has', () => {
  const things = [
    thing('s1', 'splicer', {}),
    thing('oven-1', 'oven', { hanging: 12, flat: 4 }),
    thing('oven-2', 'oven', {}),
  ];
  const setup = () =>
    openPage(DaySetup, {
      props: {
        day: DAY,
        date: '2026-09-14',
        detail: detail({ instructors: [{ id: 'i1', name: 'Iva', login: 'iva', role: 'instructor' }] }),
        things,
      },
    });
  const changes = (page: Awaited<ReturnType<typeof setup>>['page']) =>
    (page.findComponent(DaySetup).emitted('change') ?? []).map((c) => (c as [typeof DAY])[0]);
  it('is put in and taken out by a tap', async () => {
    const { page, press } = await setup();
    await press('thing s1');
    expect(changes(page).at(-1)).toMatchObject({ stations: { splicer: [] } });
    await page
      .findAll('button')
      .find((b) => b.text().startsWith('thing oven-2'))!
      .trigger('click');
    expect(
      changes(page)
        .at(-1)!
        .ovens.map((o) => o.id),
    ).toEqual(['oven-1', 'oven-2']);
    expect(page.text()).toContain('no places set');
    await press('Iva');
    expect(changes(page).at(-1)!.instructors).toEqual([]);
  });
  it('has hours that end after they begin, or nothing is changed', async () => {
    const { page, press } = await setup();
    const picker = page.findAllComponents({ name: 'ElTimePicker' })[0]!;
    picker.vm.$emit('update:modelValue', ['12:00', '09:00']);
    await settled();
    expect(page.get('[role=alert]').text()).toContain('Hours end after they begin');
    expect(changes(page)).toEqual([]);
    picker.vm.$emit('update:modelValue', ['07:00', '11:00']);
    await settled();
    expect(changes(page).at(-1)!.hours[0]!.from).not.toBe(DAY.hours[0]!.from);
    expect(page.find('[role=alert]').exists()).toBe(false);
    await press('One more part');
    expect(changes(page).at(-1)!.hours).toHaveLength(3);
  });
});

describe('pieces wanted', () => {
  const trainees = [
    { id: 'a', name: 'Ada Norr', login: 'ada', role: 'trainee' as const, group: '' },
    { id: 'b', name: 'Bo Vint', login: 'bo', role: 'trainee' as const, group: '' },
  ];
  const pieces = () =>
    openPage(DayPieces, { props: { classId: CLASS, day: DAY, methods: METHODS, trainees, things: [] } });
  const last = (page: Awaited<ReturnType<typeof pieces>>['page']) =>
    (page.findComponent(DayPieces).emitted('change')!.at(-1) as [typeof DAY])[0];
  it('are added for everybody who is chosen, and taken out by method', async () => {
    const { page } = await pieces();
    expect(page.get('[data-test=wanted]').text()).toContain('the method’s steps');
    await page.get('[data-test=add-pieces]').trigger('click');
    expect(last(page).pieces).toHaveLength(6);
    // What was added is not in the plan yet, and is said to be left out.
    expect(last(page).plan!.left).toHaveLength(2);
    await page.findAll('[data-test=wanted] button')[0]!.trigger('click');
    expect(last(page).pieces.every((p) => p.methodVersionId === 'v-spliced')).toBe(true);
  });
  it('come from what retraining asks for, by the method that practises it', async () => {
    const item = {
      closedAt: null,
      traineeId: 'b',
      skill: 'splice',
      pieces: 3,
      standing: 'retrain',
      window: 'F',
    };
    new TestServer().on(ROUTES.plan, { items: [item, { ...item, closedAt: 'x' }], sessions: [], drills: [] });
    const { page, press } = await pieces();
    await press('What retraining asks for');
    await settled();
    expect(
      last(page)
        .pieces.slice(4)
        .map((p) => [p.traineeId, p.methodVersionId]),
    ).toEqual(Array.from({ length: 3 }, () => ['b', 'v-spliced']));
  });
});

describe('it came differently', () => {
  it('from a time of the day on, and not from another', async () => {
    const { page } = await openPage(DifferentDialog, {
      props: {
        day: { ...DAY, away: [{ of: { kind: 'station', id: 'splicer', unit: 1 }, from: 10, to: 300 }] },
        detail: detail({ things: [{ id: 's1', kind: 'splicer', label: 'Splicer 1', retired: false }] }),
        minute: null,
        clock,
        behind: new Map([['a', 25]]),
      },
    });
    await settled();
    const text = document.body.textContent ?? '';
    expect(text).toContain('Splicer 1 is away from 10′ to 300′');
    const picker = page.findComponent({ name: 'ElTimePicker' });
    picker.vm.$emit('update:modelValue', wallTime(instantOf(DAY, 900)).slice(11));
    await settled();
    await holds(() =>
      expect(document.body.textContent).toContain('That is not within the hours of this day.'),
    );
    picker.vm.$emit('update:modelValue', wallTime(instantOf(DAY, 90)).slice(11));
    await settled();
    const button = document.querySelector<HTMLButtonElement>('[data-test=replan]')!;
    await holds(() => expect(button.disabled).toBe(false));
    button.click();
    await settled();
    const sent = page.emitted('replan')!.at(-1) as [typeof DAY, FromNow];
    expect(sent[1].minute).toBeGreaterThan(0);
    // Read from the open pieces, and sent as it stands.
    expect([...sent[1].lateBy]).toEqual([['a', 25]]);
    expect(sent[0].away).toHaveLength(1);
  });
});

const load = (endsInS: number, more: object = {}) => ({
  id: id(70),
  ovenId: id(80),
  schedule: '25 min',
  members: [id(11), id(12)],
  startedAt: new Date(Date.now() - 60_000).toISOString(),
  endsAt: new Date(Date.now() + endsInS * 1000).toISOString(),
  takenOutAt: null,
  ...more,
});
const OVEN = { id: id(80), kind: 'oven', label: 'Oven 1', retired: false } as const;
function today(loads: readonly object[], saved: unknown = null): TestServer {
  const classroom = useClassroom();
  classroom.classId = CLASS;
  classroom.detail = detail({ things: [OVEN] });
  return new TestServer()
    .on(ROUTES.day, { day: '2026-09-14', saved, loads, clashes: [], signed: [], benches: {} })
    .on(ROUTES.dayMethods, METHODS)
    .on(ROUTES.stock, {
      things: [thing('film', 'film', { item: 'film-3', uses: 70 }, { left: 2, warnings: ['runs_out'] })],
      items: ITEMS,
    })
    .on(ROUTES.startLoad, { done: true })
    .on(ROUTES.takeLoadOut, { done: true });
}

describe('now', () => {
  it('a load that is due is to be taken out, by one tap', async () => {
    const server = today([load(-30)]);
    const { page } = await openPage(NowPanel, { props: { classId: CLASS } });
    await settled();
    expect(page.get('[data-test=load]').text()).toContain('Take out');
    expect(page.get('[data-test=load]').text()).toContain('Torvin Hale, Bela Okarin');
    await page.get('[data-test=take-out]').trigger('click');
    await settled();
    expect(server.of(ROUTES.takeLoadOut)).toHaveLength(1);
  });
  it('what is to be loaded is, by one tap, for as long as it cures', async () => {
    const began = Date.now() - 5 * 60_000;
    const hours = [
      { from: new Date(began).toISOString(), to: new Date(began + 8 * 3_600_000).toISOString() },
    ];
    const pieces = DAY.pieces.map((p) => ({ ...p, traineeId: p.traineeId === 'a' ? id(11) : id(12) }));
    const saved = { ...DAY, hours, pieces, changedAt: '', changedBy: '' };
    const server = today([], saved);
    const { page } = await openPage(NowPanel, { props: { classId: CLASS } });
    await settled();
    expect(page.findAll('[data-test=bench-now]')).toHaveLength(2);
    expect(page.get('[data-test=bench-now]').text()).toContain('not begun');
    expect(page.get('[data-test=behind]').text()).toMatch(/^\d+ min behind$/);
    await page.get('[data-test=loaded]').trigger('click');
    await settled();
    expect(server.of(ROUTES.startLoad)[0]!.body).toMatchObject({
      ovenId: 'oven-1',
      schedule: '25 min',
      minutes: 25,
      members: [id(11), id(12)],
    });
  });
  it('a day that nobody planned says so', async () => {
    today([]);
    const { page } = await openPage(NowPanel, { props: { classId: CLASS } });
    await settled();
    expect(page.text()).toContain('Today is not planned yet.');
    expect(page.get('[data-test=warned]').text()).toBe('Stock: thing film runs out soon.');
  });
});

describe('the clocks of the ovens', () => {
  it('stand in every place, and sound once when a load is due', async () => {
    const tones = vi.fn();
    vi.stubGlobal(
      'AudioContext',
      class {
        state = 'running';
        currentTime = 0;
        destination = {};
        createOscillator = () => ({
          frequency: { value: 0 },
          connect: () => ({ connect: () => undefined }),
          start: tones,
          stop: () => undefined,
        });
        createGain = () => ({ gain: { value: 0 } });
      },
    );
    today([load(1), load(500, { id: id(71) }), load(9, { id: id(72), takenOutAt: 'x' })]);
    const { page } = await openPage(OvenStrip, { props: { classId: CLASS } });
    await settled();
    expect(page.findAll('.oven')).toHaveLength(2);
    expect(page.text()).toMatch(/Oven 1 0:0[01]/);
    await vi.waitFor(() => expect(page.text()).toContain('take out'), { timeout: 10_000 });
    expect(tones).toHaveBeenCalledTimes(2);
  });
  it('are not there while nothing cures', async () => {
    today([]);
    const { page } = await openPage(OvenStrip, { props: { classId: CLASS } });
    await settled();
    expect(page.find('.strip').exists()).toBe(false);
  });
});

describe('a trainee’s own day', () => {
  it('has the steps with their times and places', async () => {
    const step = (from: string, to: string, name: string, at: string | null) => ({
      from,
      to,
      name,
      at,
      title: 'Glued',
    });
    new TestServer().on(ROUTES.ownDays, [
      {
        classId: CLASS,
        className: 'Pier crew 1',
        day: '2026-09-14',
        bench: 'Bench 4',
        loads: [{ id: id(70), oven: 'Oven 1', schedule: '25 min', endsAt: '2020-09-14T08:40:00.000Z' }],
        steps: [
          step('2020-09-14T08:30:00.000Z', '2020-09-14T08:40:00.000Z', 'Prepare', null),
          step('2020-09-14T08:40:00.000Z', '2099-09-14T09:05:00.000Z', 'Cure', 'Oven 1'),
        ],
      },
    ]);
    const { page } = await openPage(OwnDays, { as: 'trainee' });
    await settled();
    expect(page.text()).toContain('Cure, Oven 1');
    expect(page.get('h2').text()).toContain('Bench 4');
    expect(page.get('[data-test=own-load]').text()).toContain('Take out');
    expect(page.findAll('li').map((l) => l.classes())).toEqual([['over'], ['now']]);
  });
});
