// @vitest-environment happy-dom
import { FACE_CRITERIA } from '@clear-mark/core';
import { type FaceTable, ROUTES } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import {
  CLASS,
  freshPages,
  id,
  openPage,
  pressAnywhere,
  settled,
  shows,
  TestServer,
} from '../../../test/page.ts';
import ChoiceField from '../../shared/ChoiceField.vue';
import CallsPanel from './calls/CallsPanel.vue';
import OwnCalls from './calls/OwnCalls.vue';
import CriteriaPanel from './criteria/TablesPanel.vue';
import AttemptFaces from './inspect/AttemptFaces.vue';
import FaceTools from './inspect/FaceTools.vue';
import FaceVerdicts from './inspect/FaceVerdicts.vue';
import FeatureTable from './inspect/FeatureTable.vue';
import PictureSources from './inspect/PictureSources.vue';

freshPages();

const feature = (n: number, more: object = {}) => ({
  number: n,
  kind: 'defect',
  sizeUm: 7.8,
  uncertaintyUm: 0.1,
  xUm: 3,
  yUm: 4,
  lengthUm: null,
  areaUm2: 31,
  outlineUm: [],
  rejected: false,
  changed: false,
  decides: true,
  zones: ['B'],
  origin: { by: 'engine', index: n - 1 },
  ...more,
});

describe('what was found on a face', () => {
  const table = (features: object[], chosen: number | null = null) =>
    openPage(FeatureTable, { props: { features, chosen } });
  it('nothing found is said in words', async () =>
    expect((await table([])).page.text()).toContain('Nothing that stands out of the glass.'));
  it('says size with its uncertainty, zone, and what decides', async () => {
    const words = (await table([feature(1)])).page.get('[data-feature="1"]').text();
    for (const part of ['7.8', '± 0.1', 'zone B, decides', '31 µm²']) expect(words).toContain(part);
  });
  it('a chosen one is rejected, or called another kind; one that was rejected counts again', async () => {
    const { page, press } = await table([feature(1)], 1);
    await press('It is a scratch');
    await press('Reject');
    expect([page.emitted('kind'), page.emitted('reject')].map((e) => e?.length)).toEqual([1, 1]);
    const again = await table([feature(1, { rejected: true })], 1);
    expect(again.button('Count it').text()).toBe('Count it');
  });
  it('one that was added by hand is taken away', async () => {
    const { button } = await table([feature(2, { origin: { by: 'hand', index: 0 } })], 2);
    expect(button('Remove').text()).toBe('Remove');
  });
});

describe('engine, instructor and trainee', () => {
  const rules = FACE_CRITERIA[0]!;
  const zones = rules.zones.map((z) => ({ zone: z.zone, verdict: 'pass', features: [], breaches: [] }));
  const reviewed = { verdict: 'pass', grade: { verdict: 'pass', zones }, features: [], origin: [] };
  const panel = (more: object = {}) =>
    openPage(FaceVerdicts, {
      props: {
        face: { grade: { verdict: 'pass' }, core: { class: 'single_mode' }, contactSeen: 1 },
        table: rules,
        reviewed,
        traineeSaid: null,
        override: null,
        ...more,
      },
    });
  it('a grade that may be the other one says how probable a pass is, and no more once it was decided', async () => {
    const pit = {
      kind: 'defect',
      sizeUm: 5.05,
      xUm: 30,
      yUm: 0,
      nearestUm: 27.5,
      farthestUm: 32.5,
      uncertaintyUm: 0.6,
    };
    const near = { ...reviewed, features: [pit], origin: [0] };
    const open = await panel({ reviewed: near });
    expect(open.page.get('[data-test=near-limit]').text()).toMatch(/chance of a pass is (3|4|5)\d %/);
    const decided = await panel({ reviewed: near, override: { says: 'fail', reason: 'seen at 400 times' } });
    expect(decided.page.find('[data-test=near-limit]').exists()).toBe(false);
    expect((await panel()).page.find('[data-test=near-limit]').exists()).toBe(false);
  });
  it('a good face that is called bad is a false alarm, a bad one called good a miss', async () => {
    expect((await panel({ traineeSaid: 'fail' })).page.get('[data-test=missed]').text()).toContain(
      'false alarm',
    );
    const bad = { ...reviewed, verdict: 'fail', grade: { ...reviewed.grade, verdict: 'fail' } };
    expect(
      (await panel({ traineeSaid: 'pass', reviewed: bad })).page.get('[data-test=missed]').text(),
    ).toContain('A miss');
    expect((await panel({ traineeSaid: 'pass' })).page.find('[data-test=missed]').exists()).toBe(false);
  });
  it('the instructor decides otherwise with a reason only, and can take it back', async () => {
    const { page, press } = await panel();
    await press('Decide otherwise');
    expect(
      page
        .findAll('button')
        .find((b) => b.text() === 'It is a fail')!
        .attributes('disabled'),
    ).toBeDefined();
    await page.get('input').setValue('a scratch over the core');
    await press('It is a fail');
    expect(page.emitted('override')).toEqual([[{ says: 'fail', reason: 'a scratch over the core' }]]);
    const decided = await panel({ override: { says: 'fail', reason: 'x' } });
    await decided.press('Take back');
    expect(decided.page.emitted('override')).toEqual([[null]]);
  });
  it('criteria for another fiber than the picture shows are doubted', async () =>
    expect(
      (
        await panel({ face: { grade: { verdict: 'pass' }, core: { class: 'multimode_50' }, contactSeen: 1 } })
      ).page.text(),
    ).toContain('are these the right criteria?'));
});

describe('tools and sources of a picture', () => {
  it('zoom in is always there, zoom out and the whole once it is zoomed', async () => {
    const tools = (zoomed: boolean) =>
      openPage(FaceTools, {
        props: {
          name: 'End 1',
          face: { umPerPx: 0.25, core: { class: 'single_mode' } },
          zoomed,
          tool: 'look',
          flattened: false,
          loupe: false,
          width: 1,
        },
      });
    const plain = await tools(false);
    await plain.press('Zoom in');
    expect(plain.page.emitted('closer')).toHaveLength(1);
    expect(plain.button('Zoom out').attributes('disabled')).toBeDefined();
    expect(plain.page.text()).not.toContain('Whole');
    const zoomed = await tools(true);
    await zoomed.press('Whole');
    expect(zoomed.page.emitted('whole')).toHaveLength(1);
  });
  it('what is kept keeps its criteria; a new picture is chosen as a file', async () => {
    const { page } = await openPage(PictureSources, {
      props: {
        tables: FACE_CRITERIA,
        kept: true,
        empty: false,
        shows: 'single',
        tableId: FACE_CRITERIA[0]!.id,
      },
    });
    expect(page.findAll('.el-select.is-disabled, .is-disabled').length).toBeGreaterThan(0);
    expect(page.get('input[type=file]').attributes('accept')).toBe('image/png,image/jpeg');
  });
});

describe('pictures of a piece', () => {
  const of = (open: boolean) => openPage(AttemptFaces, { props: { classId: CLASS, attemptId: id(5), open } });
  it('none yet leads to the scope, while the piece is open', async () => {
    new TestServer().on(ROUTES.faces, []);
    expect((await of(true)).page.text()).toContain('Look at its end face');
    expect((await of(false)).page.text()).toBe('');
  });
  it('without a server the sheet goes on without them', async () => {
    new TestServer();
    const { page } = await of(true);
    expect(page.find('[role=alert]').exists()).toBe(false);
  });
});

describe('blind calls', () => {
  const series = (more: object = {}) => ({
    id: id(60),
    label: 'Near the limit',
    faces: 12,
    bad: 5,
    missWeight: 3,
    secondsEach: 30,
    madeAt: '2026-03-02T10:00:00.000Z',
    runs: [],
    agreements: [],
    ...more,
  });
  const panel = () => openPage(CallsPanel, { props: { classId: CLASS } });
  it('without a series the next step is said', async () => {
    new TestServer().on(ROUTES.callSeries, []).on(ROUTES.faces, []);
    expect((await panel()).page.text()).toContain('No series is set.');
  });
  it('a series says what it holds, and who is at it', async () => {
    const runs = [{ id: id(61), personName: 'Torvin Hale', answered: 4, result: null, attemptId: null }];
    new TestServer().on(ROUTES.callSeries, [series({ runs })]).on(ROUTES.faces, []);
    const words = (await panel()).page.get('[data-series="Near the limit"]').text();
    for (const part of ['12 faces, 5 bad', '30 s each', 'at face 5 of 12', '0 called it, 1 at it'])
      expect(words).toContain(part);
  });
  it('a new one needs a name', async () => {
    new TestServer().on(ROUTES.callSeries, []).on(ROUTES.faces, []);
    const { page, press, button } = await panel();
    await press('Set a series');
    expect(page.text()).toContain('Give the series a name.');
    expect(button('Save series').attributes('disabled')).toBeDefined();
  });
  it('what cannot be read is told', async () => {
    new TestServer();
    expect((await panel()).page.get('[role=alert]').text()).toContain('does not answer');
  });
  it('a trainee finds the own ones, and sees nothing where there is none', async () => {
    const server = new TestServer().on(ROUTES.ownSeries, [
      { id: id(60), label: 'Near the limit', className: 'x', faces: 12, secondsEach: null, run: null },
    ]);
    const { page } = await openPage(OwnCalls, { as: 'trainee' });
    expect(page.text()).toContain('Begin');
    server.on(ROUTES.ownSeries, []);
    await settled();
    const none = new TestServer().on(ROUTES.ownSeries, []);
    expect(none.asked).toEqual([]);
  });
});

describe('tables of zones', () => {
  const OWN: FaceTable = {
    ...FACE_CRITERIA[0]!,
    id: `class/${FACE_CRITERIA[0]!.id}`,
    title: 'Ours',
    version: 2,
  };
  const OF_SCHOOL = {
    kind: 'zones',
    title: 'Strict zones',
    content: { base: 'sm-pc', zones: OWN.zones.slice(0, 2), source: OWN.source },
    id: id(71),
    version: 3,
    retired: false,
    editedBy: 'Wilhelmina Tarrow',
    editedAt: '2026-03-02T09:00:00.000Z',
  };
  const panel = async (role: 'lead' | 'instructor', server: TestServer) => {
    server.on(ROUTES.schoolTables, [OF_SCHOOL]);
    const props = { classId: CLASS, tables: [OWN, ...FACE_CRITERIA] };
    const opened = await openPage(CriteriaPanel, { props, as: role });
    await shows(opened.page, 'Begin from a table of the school');
    return opened;
  };
  it('a lead keeps the table of a class for all classes; the tap is taken back by Undo', async () => {
    const server = new TestServer().on(ROUTES.saveSchoolTable, OF_SCHOOL);
    const { press } = await panel('lead', server);
    await press('Oursversion 2');
    await press('Keep for all classes');
    await pressAnywhere('Undo');
    expect(server.of(ROUTES.saveSchoolTable).map((a) => a.body)).toMatchObject([
      { from: 0, retired: false, table: { kind: 'zones', title: 'Ours', content: { base: 'sm-pc' } } },
      { retired: true },
    ]);
  });
  it('an instructor begins from one of the school, and a save makes it the class’s own', async () => {
    const server = new TestServer().on(ROUTES.saveFaceTable, OWN);
    const { page, press } = await panel('instructor', server);
    await press('Oursversion 2');
    expect(page.text()).not.toContain('Keep for all classes');
    page.getComponent(ChoiceField).vm.$emit('change', OF_SCHOOL.id);
    await page.vm.$nextTick();
    await press('Save as the next version');
    expect(server.of(ROUTES.saveFaceTable)[0]!.body).toMatchObject({
      base: 'sm-pc',
      title: 'Strict zones',
      zones: OF_SCHOOL.content.zones,
    });
  });
});
