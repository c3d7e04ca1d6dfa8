// @vitest-environment happy-dom
import { analyseTrace, lossByMarkers, traceGroups } from '@clear-mark/core';
import { type ClassLink, ROUTES, type TraceRow } from '@clear-mark/contract';
import { EXAMPLE_LINKS } from '@clear-mark/methods/loss';
import { rngFrom, simulatedTrace, type Plant, USUAL_METER } from '@clear-mark/sim';
import { describe, expect, it } from 'vitest';
import { CLASS, freshPages, id, openPage, settled, TestServer } from '../../../../test/page.ts';
import AttemptTraces from './AttemptTraces.vue';
import ReadingSection from './ReadingSection.vue';
import OwnTraceSeries from './series/OwnTraceSeries.vue';
import TraceSeriesSection from './series/TraceSeriesSection.vue';
import TraceAboutForm from './TraceAboutForm.vue';
import TraceList from './TraceList.vue';
import EventTable from './view/EventTable.vue';
import MarkerPanel from './view/MarkerPanel.vue';
import MarkList from './view/MarkList.vue';
import PlanTable from './view/PlanTable.vue';
import ReadingResult from './view/ReadingResult.vue';
import SeveralTraces from './view/SeveralTraces.vue';
import type { ShownTrace } from './view/shown-trace.ts';
import TraceChart from './view/TraceChart.vue';
import TraceMarkers from './view/TraceMarkers.vue';
import TraceStrip from './view/TraceStrip.vue';
import { markersAround } from './view/trace-view.model.ts';

freshPages();

const PLANT: Plant = {
  events: [
    { positionM: 500, lossDb: 0.2, reflectanceDb: -50 },
    { positionM: 900, lossDb: 0.4, reflectanceDb: null },
    { positionM: 1200, lossDb: 0.25, reflectanceDb: -46 },
  ],
  endM: 1500,
  endReflectanceDb: -20,
  portReflectanceDb: -50,
  dbPerKm: 0.33,
  backscatterSteps: [],
};
const shownOf = (plant: Plant, more: object = {}): ShownTrace => {
  const trace = simulatedTrace(plant, { ...USUAL_METER, points: 4000, ...more }, rngFrom(4));
  return { key: 'k', label: 'Panel 3', trace, groups: traceGroups(trace), analysis: analyseTrace(trace) };
};
const shown = shownOf(PLANT);
const { events } = shown.analysis!;
const row = (n: number, more: Partial<TraceRow> = {}): TraceRow => ({
  id: id(300 + n),
  label: `Panel ${n}`,
  linkId: null,
  fiber: null,
  direction: null,
  launchM: 500,
  receiveM: 300,
  attemptId: null,
  source: 'file',
  wavelengthNm: 1310,
  pulseNs: 30,
  points: 4000,
  takenAt: '2026-03-02T10:00:00.000Z',
  takenBy: 'Ysolde Brack',
  linkLabel: null,
  traineeName: null,
  pieceLabel: null,
  ...more,
});
const linkOf = (parts: Partial<ClassLink['plan']>): ClassLink => ({
  ...(structuredClone(EXAMPLE_LINKS[0]!) as unknown as ClassLink),
  id: id(80),
  retired: false,
  plan: { ...EXAMPLE_LINKS[0]!.plan, ...parts } as ClassLink['plan'],
});
const PLANNED = linkOf({
  segments: [
    { kind: 'cable', lengthM: 400, polish: 'flat' },
    { kind: 'cable', lengthM: 300, polish: 'flat' },
  ],
  joints: ['splice'],
});

describe('a trace that is drawn', () => {
  const chart = (more: object = {}) =>
    openPage(TraceChart, {
      props: { traces: [shown], events, markers: null, marks: [], marking: false, label: 'A trace', ...more },
    });
  it('says what part of it is seen, and is walked by the keys', async () => {
    const { page } = await chart();
    const svg = page.get('svg[role=img]');
    const said = (): string => svg.attributes('aria-label')!;
    expect(said()).toContain('Shown from 0.0 m');
    expect(page.findAll('.event')).toHaveLength(events.length);
    expect(page.get('.line').attributes('d')).toMatch(/^M[\d.]+ [\d.]+/);
    await svg.trigger('keydown', { key: 'x' });
    expect(said()).toContain('Shown from 0.0 m');
  });
  it('a tap marks while marks are made, and does nothing otherwise', async () => {
    const marking = await chart({ marking: true, events: [] });
    await marking.page.get('svg[role=img]').trigger('click', { clientX: 400, clientY: 100 });
    expect(marking.page.emitted('mark')).toHaveLength(1);
    const { page } = await chart();
    await page.get('svg[role=img]').trigger('click', { clientX: 400, clientY: 100 });
    expect(page.emitted('mark')).toBeUndefined();
    await page.findAll('.event')[1]!.trigger('click');
    expect(page.emitted('event')).toEqual([[1]]);
  });
  it('markers are moved by the arrows, windows by themselves', async () => {
    const markers = markersAround(shown.trace, shown.analysis!, events[0]!, events[0]!);
    const axis = { toPx: (m: number) => m, toM: (px: number) => px };
    const { page } = await openPage(TraceMarkers, {
      props: { markers, axis, top: 0, bottom: 300, unit: 'm' },
    });
    const slider = (name: string) => page.get(`[role=slider][aria-label="${name}"]`);
    await slider('Marker B').trigger('keydown', { key: 'ArrowRight', shiftKey: true });
    await slider('Line before, its beginning').trigger('keydown', { key: 'ArrowLeft' });
    await slider('Marker A').trigger('keydown', { key: 'Enter' });
    const moved = page.emitted('move') as [typeof markers][];
    expect(moved).toHaveLength(2);
    expect(moved[0]![0].bM).toBeCloseTo(markers.bM + 20, 9);
    expect(moved[1]![0].before.fromM).toBeCloseTo(markers.before.fromM - 1, 9);
    expect(slider('Marker A').attributes('aria-valuetext')).toMatch(/ m$/);
  });
  it('the strip shows events in order, cords as loops, and is tapped and keyed', async () => {
    const { page } = await openPage(TraceStrip, {
      props: { events, spans: shown.analysis!.spans, link: { fromM: 500, toM: 1200 }, chosen: 1 },
    });
    const taps = page.findAll('.tap');
    expect(taps.map((t) => t.attributes('aria-pressed'))).toEqual(['false', 'true', 'false', 'false']);
    expect(page.findAll('.cord')).toHaveLength(2);
    await taps[2]!.trigger('click');
    await taps[3]!.trigger('keydown', { key: 'Enter' });
    expect(page.emitted('choose')).toEqual([[2], [3]]);
    expect(page.text()).toContain('dB/km');
  });
});

describe('what a trace says', () => {
  it('markers give both losses, or why there is none', async () => {
    const markers = markersAround(shown.trace, shown.analysis!, events[0]!, events[0]!);
    const { page } = await openPage(MarkerPanel, { props: { shown, markers } });
    const loss = lossByMarkers(shown.trace, shown.analysis!, markers);
    expect(page.text()).toContain(loss.ok ? loss.linesDb.toFixed(3) : '-');
    expect(page.text()).not.toContain('dB/km');
    await page.setProps({ markers: { ...markers, aM: 1300 } });
    expect(page.get('[role=status]').text()).toContain('crossed');
    expect(page.text()).not.toContain('Loss by the two lines');
    // Of a trace that nobody looked through, lines are fitted all the same.
    await page.setProps({ markers, shown: { ...shown, analysis: null } });
    expect(page.text()).toContain('Loss by the two lines');
  });
  it('events stand beside those of the file; two that read as one have one loss', async () => {
    const { analysis } = shown;
    const joined = [{ fromM: events[0]!.positionM, toM: events[1]!.positionM, lossDb: 0.62, uLossDb: 0.01 }];
    const parted = { ...events[0]!, lossDb: null, uLossDb: null };
    const together = { ...analysis!, joined, events: [parted, ...events.slice(1)] };
    const table = [
      { positionM: 500, kind: 'reflective', lossDb: 0.9, reflectanceDb: -50, saturated: false, comment: '' },
    ] as const;
    const { page } = await openPage(EventTable, {
      props: { analysis: together, table, withinM: 10, chosen: 0 },
    });
    expect(page.text()).toContain('0.620, 2 as one');
    expect(page.text()).toContain('File says');
    await page.findAll('tbody tr')[1]!.trigger('click');
    expect(page.emitted('choose')).toEqual([[1]]);
  });
  it('the plan stands beside it, with limits and verdicts; a bad splice fails', async () => {
    const props = { shown, range: { fromM: 499.75, toM: 1199.75 }, link: PLANNED, launchM: 500 };
    const { page } = await openPage(PlanTable, { props });
    const words = page.text();
    expect(words).toContain('planned 700.0 m');
    expect(words).toMatch(/splice at 8\d\d\.\d m/);
    expect(words).toContain('Fail');
    expect(words).toContain('Return loss');
    expect(words).toContain('The launch cord is shorter than the link');
    await page.setProps({ link: null });
    expect(page.text()).toContain('Choose its link above');
    await page.setProps({ link: linkOf({ segments: [], joints: [] }) });
    expect(page.find('[data-test=plan]').exists()).toBe(false);
    await page.setProps({ link: PLANNED, range: null, launchM: null });
    expect(page.text()).toContain('nobody said how long the cords are');
  });
  it('a break, and what the plan does not have, are told', async () => {
    const broken = shownOf({ ...PLANT, events: PLANT.events.slice(0, 2), endM: 1000 });
    const { page } = await openPage(PlanTable, {
      props: { shown: broken, range: { fromM: 499.75, toM: 999.75 }, link: PLANNED, launchM: 500 },
    });
    expect(page.text()).toContain('a break');
    const whole = linkOf({ segments: [{ kind: 'cable', lengthM: 700, polish: 'flat' }], joints: [] });
    await page.setProps({ shown, range: { fromM: 499.75, toM: 1199.75 }, link: whole });
    expect(page.text()).toContain('Not in the plan');
  });
  it('both ends, wavelengths and differences, as far as the traces go together', async () => {
    const one = (n: number, more: Partial<TraceRow>) => row(n, { launchM: null, ...more });
    const { page } = await openPage(SeveralTraces, {
      props: {
        traces: [shown, { ...shown, key: 'b' }],
        rows: [one(1, { direction: 'a_b' }), one(2, { direction: 'b_a' })],
      },
    });
    expect(page.text()).toContain('From both ends');
    const longer = { ...shown, trace: { ...shown.trace, wavelengthNm: 1550 }, key: 'c' };
    await page.setProps({ traces: [longer, shown], rows: [one(1, { wavelengthNm: 1550 }), one(2, {})] });
    await settled();
    expect(page.text()).toMatch(/1310 nm, dB.*1550 nm, dB/s);
    expect(page.text()).not.toContain('From both ends');
    const other = shownOf({ ...PLANT, endM: 1900 });
    await page.setProps({
      traces: [shown, other],
      rows: [one(1, { direction: 'a_b' }), one(2, { direction: 'b_a' })],
    });
    expect(page.text()).toContain('The two traces do not show one fiber');
  });
});

describe('a trainee reads', () => {
  const marks = [{ positionM: 500, kind: 'reflective' }] as const;
  it('marks go to the server, the figures onto the sheet', async () => {
    const reading = {
      found: 1,
      events: 4,
      named: 1,
      invented: 0,
      ghostsCalled: 1,
      endFound: false,
      marks: ['right'],
      missedM: [900],
    };
    const server = new TestServer().on(ROUTES.readTrace, { reading, linkLossDb: 1.2, entered: 3 });
    const { page, press } = await openPage(ReadingSection, {
      props: { classId: CLASS, row: row(1, { attemptId: id(9) }), marking: 'reflective', marks },
    });
    await press('Compare');
    await settled();
    expect(server.of(ROUTES.readTrace)[0]!.body).toEqual({ marks, lossDb: null });
    await page.setProps({ marking: null });
    expect(page.text()).toContain('1 of 4 events found');
    expect(page.text()).toContain('1 ghost taken for events');
    expect(page.text()).toContain('900.0 m: missed');
    expect(page.text()).toContain('3 values are on its sheet.');
  });
  it('a refusal is told, and the marks stay', async () => {
    new TestServer().refuse(ROUTES.readTrace, 409, 'trace.attempt_signed', 'That piece is signed.');
    const { page, press } = await openPage(ReadingSection, {
      props: { classId: CLASS, row: row(1), marking: 'reflective', marks },
    });
    await press('Compare');
    await settled();
    expect(page.get('[role=alert]').text()).toContain('That piece is signed.');
    expect(page.findAll('[data-test=marks] li')).toHaveLength(1);
  });
  it('a mark is taken away by itself', async () => {
    const { page } = await openPage(MarkList, {
      props: { modelValue: [...marks, { positionM: 900, kind: 'ghost' }] },
    });
    await page.findAll('.el-tag__close')[0]!.trigger('click');
    expect(page.emitted('update:modelValue')).toEqual([[[{ positionM: 900, kind: 'ghost' }]]]);
    await page.setProps({ modelValue: [] });
    expect(page.text()).toContain('Nothing is marked yet.');
  });
  it('what became of each mark is said in words', async () => {
    const { page } = await openPage(ReadingResult, {
      props: {
        marks: [...marks, { positionM: 700, kind: 'reflective' }],
        reading: {
          found: 1,
          events: 1,
          named: 0,
          invented: 0,
          ghostsCalled: 1,
          endFound: null,
          marks: ['other_kind', 'ghost'],
          missedM: [],
        },
      },
    });
    expect(page.text()).toContain('of another kind');
    expect(page.text()).toContain('a ghost, taken for an event');
    expect(page.text()).not.toContain('the end');
  });
});

describe('traces of a class', () => {
  it('are opened by a tap; some chosen ones are laid over each other, five at most', async () => {
    const rows = Array.from({ length: 6 }, (_, i) => row(i + 1, { fiber: i + 1, linkLabel: 'Riser' }));
    const { page } = await openPage(TraceList, { props: { rows } });
    expect(page.text()).toContain('Riser, fiber 1');
    await page.findAll('tbody tr')[0]!.trigger('click');
    expect(page.emitted('open')).toEqual([[[rows[0]!.id]]]);
    const boxes = page.findAll('tbody input[type=checkbox]');
    for (const i of [0, 2]) await boxes[i]!.setValue(true);
    await settled();
    expect(page.text()).toContain('Lay 2 over each other');
    for (const i of [1, 3, 4, 5]) await boxes[i]!.setValue(true);
    await settled();
    expect(page.text()).toContain('At most 5 over each other');
  });
  it('none say how one comes there', async () =>
    expect((await openPage(TraceList, { props: { rows: [] } })).page.text()).toContain(
      'No trace is kept yet.',
    ));
  it('what is said of one is saved with each change', async () => {
    const server = new TestServer().on(ROUTES.describeTrace, row(1, { label: 'Other' }));
    const { page } = await openPage(TraceAboutForm, {
      props: { classId: CLASS, row: row(1), links: [PLANNED] },
    });
    const name = page.get('input[aria-label="Name"]');
    await name.setValue('Other');
    await name.trigger('change');
    await name.trigger('blur');
    await settled();
    expect(server.of(ROUTES.describeTrace)[0]!.body).toMatchObject({
      label: 'Other',
      launchM: 500,
      attemptId: null,
    });
    expect(page.emitted('described')![0]).toMatchObject([{ label: 'Other' }]);
  });
  it('a sheet leads to its own traces, and to another one while it is open', async () => {
    new TestServer().on(ROUTES.traces, [row(1, { attemptId: id(9) }), row(2)]);
    const { page } = await openPage(AttemptTraces, {
      props: { classId: CLASS, attemptId: id(9), open: true },
    });
    await settled();
    expect(page.findAll('a').map((a) => a.text())).toEqual(['Trace at 1310 nm', 'Another trace']);
    await page.setProps({ open: false });
    expect(page.findAll('a')).toHaveLength(1);
  });
});

describe('series that are read blind', () => {
  const RESULT = {
    traces: 4,
    found: 9,
    events: 12,
    named: 8,
    invented: 1,
    ghostsCalled: 1,
    ends: 4,
    endsFound: 4,
    verdictsRight: 3,
    badCalledGood: 1,
  };
  it('say who read them and how; a new one needs a name', async () => {
    new TestServer().on(ROUTES.traceSeries, [
      {
        id: id(50),
        label: 'Monday',
        traces: 4,
        runs: [
          { id: id(51), personName: 'Bela', answered: 4, result: RESULT, attemptId: id(9) },
          { id: id(52), personName: 'Ilse', answered: 1, result: null, attemptId: null },
        ],
      },
    ]);
    const { page, press, button } = await openPage(TraceSeriesSection, {
      props: { classId: CLASS, rows: [row(1)] },
    });
    await settled();
    expect(page.text()).toContain('9 of 12 events found, 1 invented, 1 ghost called, 3 of 4 verdicts right');
    expect(page.text()).toContain('at trace 2 of 4');
    await press('Set a series');
    expect(page.text()).toContain('Give the series a name.');
    expect(button('Save series').attributes('disabled')).toBeDefined();
  });
  it('a trainee finds the own ones', async () => {
    new TestServer().on(ROUTES.ownTraceSeries, [
      {
        id: id(50),
        label: 'Monday',
        traces: 4,
        run: { id: id(51), answered: 4, finished: true, result: RESULT },
      },
      { id: id(53), label: 'Tuesday', traces: 4, run: null },
    ]);
    const { page } = await openPage(OwnTraceSeries, { as: 'trainee' });
    await settled();
    expect(page.findAll('a').map((a) => a.text())).toEqual(['See', 'Begin']);
    expect(page.text()).toContain('3 of 4 verdicts right');
  });
});
