// @vitest-environment happy-dom
import { ROUTES } from '@clear-mark/contract';
import { DEFAULT_POLICY } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { CLASS, freshPages, holds, id, openPage, settled, shows, TestServer } from '../../../test/page.ts';
import InsightPage from './InsightPage.vue';
import EvidencePage from './needs/EvidencePage.vue';
import SuggestionList from './failures/SuggestionList.vue';
import WhyPanel from './failures/WhyPanel.vue';

freshPages();

const none = { kind: 'none' };
const results = (more: object = {}) => ({
  skills: [],
  whole: { rate: none, firstPass: [], void: 0 },
  losses: [],
  failures: [],
  standings: [],
  signed: 0,
  ...more,
});
const detail = {
  id: CLASS,
  policy: DEFAULT_POLICY,
  trainees: [{ id: id(11), name: 'Torvin Hale', group: '' }],
  instructors: [],
  things: [],
  methods: [],
  startsOn: '2026-03-02',
  endsOn: '2026-03-30',
};
const insight = (at = '/insight') => openPage(InsightPage, { props: { classId: CLASS }, at });

describe('what a class comes to', () => {
  it('of nothing signed there is nothing to count, and the way to the benches', async () => {
    new TestServer().on(ROUTES.results, results()).on(ROUTES.classDetail, detail);
    const { page } = await insight();
    expect(page.text()).toContain('Nothing is signed yet, so there is nothing to count.');
    expect(page.text()).toContain('To today’s benches');
  });
  it('narrowed to nothing says so, and what it is narrowed to', async () => {
    new TestServer().on(ROUTES.results, results()).on(ROUTES.classDetail, detail);
    const { page } = await insight(`/insight?trainee=${id(11)}`);
    expect(page.text()).toContain('Nothing is signed within this choice.');
    expect(page.get('[data-test=chips]').text()).toContain('Torvin Hale');
    expect(page.text()).toContain('standings always rest on the whole history');
  });
  it('filters are folded until they are wanted', async () => {
    new TestServer().on(ROUTES.results, results()).on(ROUTES.classDetail, detail);
    const { page, press, button } = await insight();
    expect(page.text()).not.toContain('Equipment');
    await press('Filter');
    expect(page.text()).toContain('Equipment');
    expect(button('Hide the filters').attributes('aria-expanded')).toBe('true');
  });
  it('what cannot be counted at present is told', async () => {
    new TestServer().on(ROUTES.classDetail, detail);
    expect((await insight()).page.get('[role=alert]').text()).toContain('does not answer');
  });
  it('what the server refuses is told in its words, and not asked for again', async () => {
    const asked = new TestServer()
      .on(ROUTES.classDetail, detail)
      .refuse(ROUTES.results, 403, 'class.not_yours', 'This class is not yours.');
    expect((await insight()).page.get('[role=alert]').text()).toMatch(/^This class is not yours\./);
    expect(asked.of(ROUTES.results)).toHaveLength(1);
  });
});

describe('why it fails', () => {
  const panel = () =>
    openPage(WhyPanel, {
      props: { classId: CLASS, filter: {}, results: results(), link: () => ({ name: 'records' }) },
    });
  it('with little to compare says so instead of drawing', async () => {
    new TestServer()
      .on(ROUTES.failingTogether, { pieces: [], pairs: [] })
      .on(ROUTES.differences, { skills: [], compared: 0 })
      .on(ROUTES.split, { by: 'trainee', rows: [] })
      .on(ROUTES.suggestions, []);
    const { page } = await panel();
    expect(page.get('[data-test=stands-out]').text().length).toBeGreaterThan(20);
  });
  it('each part tells its own failure', async () => {
    new TestServer().on(ROUTES.failingTogether, { pieces: [], pairs: [] });
    expect((await panel()).page.findAll('[role=alert]').length).toBeGreaterThan(0);
  });
  it('suggestions: none yet, and how many were charged', async () => {
    new TestServer().on(ROUTES.suggestions, []);
    const { page } = await openPage(SuggestionList, { props: { classId: CLASS } });
    expect(page.text().length).toBeGreaterThan(10);
  });
});

describe('the evidence of a standing', () => {
  const cell = (standing: string) => ({
    skill: 'cleave',
    standing,
    evidence: { code: 'standing.competent', params: { passes: 3 } },
    window: 'PPP',
    rate: { kind: 'rate', k: 3, n: 3, share: 1, low: 0.4, high: 1 },
    behind: null,
  });
  const evidence = (standing: string, more: object = {}) => ({
    trainee: { id: id(11), name: 'Torvin Hale' },
    policy: DEFAULT_POLICY,
    cell: cell(standing),
    lapsesOn: null,
    outcomes: [],
    signOffs: [],
    signedOffAfter: [],
    competentFrom: null,
    ...more,
  });
  const page = (as: 'lead' | 'instructor') =>
    openPage(EvidencePage, { props: { classId: CLASS, traineeId: id(11), skill: 'cleave' }, as });
  it('the lead signs off what the rule shows, once, and sees it then', async () => {
    const asked = new TestServer().on(ROUTES.skillEvidence, evidence('competent')).on(ROUTES.signOff, {});
    const { page: shown } = await page('lead');
    await shown.get('input[name=sign-off-note]').setValue('calm hands');
    await shown.get('form').trigger('submit');
    await settled();
    await holds(() => expect(asked.of(ROUTES.signOff)).toHaveLength(1));
    expect(asked.of(ROUTES.signOff)[0]!.body).toMatchObject({
      traineeId: id(11),
      skill: 'cleave',
      note: 'calm hands',
    });
    await holds(() => expect(asked.of(ROUTES.skillEvidence)).toHaveLength(2));
    expect(shown.get<HTMLInputElement>('input[name=sign-off-note]').element.value).toBe('');
  });
  it('an instructor sees that it can be, and nobody signs off what is not shown', async () => {
    new TestServer().on(ROUTES.skillEvidence, evidence('competent'));
    expect((await page('instructor')).page.text()).toContain('the lead can sign this off');
  });
  it('what the rule does not show has no button', async () => {
    new TestServer().on(ROUTES.skillEvidence, evidence('learning'));
    const { page: shown } = await page('lead');
    expect(shown.text()).toContain('The rule is not met');
    expect(shown.find('form').exists()).toBe(false);
  });
  it('a sign-off that is refused is told, and its note stays', async () => {
    new TestServer()
      .on(ROUTES.skillEvidence, evidence('competent'))
      .refuse(ROUTES.signOff, 409, 'sign_off.not_shown', 'Nothing was signed.');
    const { page: shown } = await page('lead');
    await shown.get('input[name=sign-off-note]').setValue('calm hands');
    await shown.get('form').trigger('submit');
    await shows(shown, 'Nothing was signed.');
    expect(shown.get<HTMLInputElement>('input[name=sign-off-note]').element.value).toBe('calm hands');
  });
});
