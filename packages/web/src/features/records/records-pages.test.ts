// @vitest-environment happy-dom
import { ROUTES } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import { CLASS, freshPages, id, openPage, settled, TestServer } from '../../../test/page.ts';
import OwnRecordPage from './OwnRecordPage.vue';
import RecordsPage from './RecordsPage.vue';

freshPages();

const detail = {
  trainees: [{ id: id(11), name: 'Torvin Hale', group: '' }],
  instructors: [{ id: id(1), name: 'Ysolde Brack' }],
  things: [],
  methods: [],
  startsOn: '2026-03-02',
  endsOn: '2026-03-30',
};
const server = (total: number): TestServer =>
  new TestServer().on(ROUTES.attemptList, { total, rows: [] }).on(ROUTES.classDetail, detail);
const records = (at = '/records') => openPage(RecordsPage, { props: { classId: CLASS }, at });

describe('the records of a class', () => {
  it('wait with their shape', async () => {
    const answer = server(0).hold(ROUTES.attemptList, { total: 3, rows: [] });
    const { page } = await records();
    expect(page.find('.el-skeleton').exists()).toBe(true);
    answer();
    await settled();
    expect(page.get('[data-test=total]').text()).toBe('3 attempts');
  });
  it('of a class without any say where one is signed', async () => {
    server(0);
    expect((await records()).page.text()).toContain('A sheet is signed at its bench, under Today.');
  });
  it('that none of the filters let through say so, and lead back', async () => {
    server(0);
    const { page } = await records(`/records?trainee=${id(11)}&verdict=failed`);
    expect(page.text()).toContain('Nothing fits these filters.');
    expect(page.get('[data-test=chips]').text()).toContain('Torvin Hale');
  });
  it('are asked for by what the address says, and a chip takes its part away', async () => {
    const asked = server(5);
    const { page, router } = await records(`/records?trainee=${id(11)}&verdict=failed`);
    expect(asked.of(ROUTES.attemptList)[0]!.query.get('verdict')).toBe('failed');
    await page.get('button[aria-label="Remove: failed"]').trigger('click');
    await settled();
    expect(router.currentRoute.value.query).toEqual({ trainee: id(11) });
    expect(asked.of(ROUTES.attemptList).at(-1)!.query.has('verdict')).toBe(false);
  });
  it('all chips go at once', async () => {
    server(5);
    const { press, router } = await records(`/records?trainee=${id(11)}&verdict=failed`);
    await press('Show everything');
    expect(router.currentRoute.value.query).toEqual({});
  });
  it('that could not be had are asked for again', async () => {
    const asked = server(2).lose(ROUTES.attemptList);
    const { page, press } = await records();
    expect(page.get('[role=alert]').text()).toContain('does not answer');
    asked.on(ROUTES.attemptList, { total: 2, rows: [] });
    await press('Try again');
    expect(page.find('[role=alert]').exists()).toBe(false);
    expect(page.get('[data-test=total]').text()).toBe('2 attempts');
  });
  it('what is searched is asked for once it stands still', async () => {
    const asked = server(2);
    const { page, router } = await records();
    await page.get('input[aria-label="Search trainee or piece"]').setValue('TH-0');
    await new Promise((resolve) => {
      setTimeout(resolve, 400);
    });
    await settled();
    expect(router.currentRoute.value.query).toEqual({ search: 'TH-0' });
    expect(asked.of(ROUTES.attemptList).at(-1)!.query.get('search')).toBe('TH-0');
  });
});

describe('a trainee’s own page', () => {
  const own = () => openPage(OwnRecordPage, { as: 'trainee', at: '/me' });
  it('waits until all of it is there', async () => {
    const asked = new TestServer()
      .on(ROUTES.ownRecord, { total: 0, rows: [] })
      .on(ROUTES.ownBench, [])
      .on(ROUTES.ownSeries, []);
    const answer = asked.hold(ROUTES.ownSkills, []);
    const { page } = await own();
    expect(page.find('.el-skeleton').exists()).toBe(true);
    answer();
    await settled();
    expect(page.find('.el-skeleton').exists()).toBe(false);
    expect(page.get('h1').text()).toBe('Ysolde Brack');
  });
  it('says what went wrong, and tries again', async () => {
    const asked = new TestServer().on(ROUTES.ownRecord, { total: 0, rows: [] }).on(ROUTES.ownBench, []);
    const { page, press } = await own();
    expect(page.get('[role=alert]').text()).toContain('does not answer');
    asked.on(ROUTES.ownSkills, []).on(ROUTES.ownSeries, []);
    await press('Try again');
    expect(page.find('[role=alert]').exists()).toBe(false);
  });
});
