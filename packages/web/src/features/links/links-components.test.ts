// @vitest-environment happy-dom
import { ROUTES } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import { CLASS, freshPages, id, openPage, TestServer } from '../../../test/page.ts';
import LinkList from './budget/LinkList.vue';
import LinkParts from './budget/LinkParts.vue';
import { freshLabel, movedSegment, newLink } from './budget/link.model.ts';
import SplicesPanel from './splices/SplicesPanel.vue';

freshPages();

const cable = (lengthM: number) => ({ kind: 'cable', lengthM, polish: 'flat' }) as const;
const plan = {
  fiberClass: 'OS2',
  fibers: 1,
  ends: ['panel', 'panel'],
  segments: [cable(1), cable(198), cable(2)],
  joints: ['splice', 'connection'],
} as const;

describe('the parts of a link', () => {
  const parts = (more: object = {}) =>
    openPage(LinkParts, { props: { plan: { ...plan, ...more }, unit: 'm', selected: 0 } });
  it('are put in another order, joints stay where they are', async () => {
    const { page, press } = await parts();
    await press('Order');
    await press('Part 2: cable, 198 m earlier');
    const [[next]] = page.emitted('change') as [[typeof plan]];
    expect(next.segments.map((s) => s.lengthM)).toEqual([198, 1, 2]);
    expect(next.joints).toEqual(['splice', 'connection']);
    expect(page.emitted('select')).toEqual([[0]]);
  });
  it('a single part has no order', async () =>
    expect((await parts({ segments: [cable(1)], joints: [] })).page.text()).not.toContain('Order'));
  it('one more is added at the far end and is at hand', async () => {
    const { page, press } = await parts();
    await press('Add cable');
    const [[next]] = page.emitted('change') as [[typeof plan]];
    expect([next.segments.length, next.joints.length]).toEqual([4, 3]);
    expect(page.emitted('select')).toEqual([[3]]);
  });
  it('fibers that are dark by design are a list, and what is none is told', async () => {
    const { page } = await parts({
      fibers: 12,
      segments: [{ kind: 'trunk', lengthM: 20, polish: 'flat', trunk: 'A', pins: false }],
      joints: [],
    });
    const dark = page.get('input[aria-label^="Fibers that are dark"]');
    await dark.setValue('5-8');
    await dark.trigger('change');
    expect((page.emitted('change') as [[{ darkFibers: number[] }]])[0]![0].darkFibers).toEqual([5, 6, 7, 8]);
    await dark.setValue('40');
    await dark.trigger('change');
    expect(page.get('[role=alert]').text()).toContain('is no fiber from 1 to 12');
    expect(page.emitted('change')).toHaveLength(1);
  });
  it('are moved by a pure function', () =>
    expect(movedSegment(plan as never, 2, 0).segments.map((s) => (s as { lengthM: number }).lengthM)).toEqual(
      [2, 1, 198],
    ));
});

describe('the links of a class', () => {
  const list = (labels: string[]) =>
    openPage(LinkList, {
      props: {
        links: labels.map((label, i) => newLink(id(70 + i), label)),
        chosenId: id(70),
        chosenLabel: null,
      },
    });
  it('without one say so, and offer to describe it', async () => {
    const { page, press } = await list([]);
    expect(page.text()).toContain('No link described yet.');
    await press('New link');
    expect((page.emitted('start') as [[{ label: string }]])[0]![0].label).toBe('Link 1');
  });
  it('a new one gets a name that is free', async () => {
    const { page, press } = await list(['Link 2', 'Yard run']);
    await press('New link');
    expect((page.emitted('start') as [[{ label: string }]])[0]![0].label).toBe('Link 3');
    expect(freshLabel('Yard run', new Set(['Yard run', 'Yard run 2']))).toBe('Yard run 3');
  });
});

describe('splices in their trays', () => {
  const splice = (n: number, more: object = {}) => ({
    attemptId: id(n),
    traineeId: id(11),
    traineeName: 'Torvin Hale',
    pieceLabel: `TH-0${n}`,
    fiber: null,
    at: '2026-03-02T10:00:00.000Z',
    signed: true,
    verdict: 'P',
    leftDeg: 0.3,
    rightDeg: 0.5,
    estimateDb: 0.02,
    meanDb: null,
    joint: null,
    proof: true,
    ...more,
  });
  const panel = () => openPage(SplicesPanel, { props: { classId: CLASS } });
  it('without any say which methods make one', async () => {
    new TestServer().on(ROUTES.splices, []);
    expect((await panel()).page.text()).toContain('No splice of this class yet.');
  });
  it('one over the limit is to be redone, and the count says so', async () => {
    new TestServer().on(ROUTES.splices, [splice(1), splice(2, { estimateDb: 0.14, proof: false })]);
    const { page } = await panel();
    expect(page.text()).toContain('dB estimated, redo');
    expect(page.text()).toContain('broke in proof');
    expect(page.get('dl').text()).toContain('1 of 2 (house: 0.10 dB and over)');
  });
  it('what cannot be read is told', async () => {
    new TestServer();
    expect((await panel()).page.get('[role=alert]').text()).toContain('does not answer');
  });
});
