// @vitest-environment happy-dom
import type { ClassDetail, TodayTile } from '@clear-mark/contract';
import { flushPromises, mount, type VueWrapper } from '@vue/test-utils';
import { ElSelect } from 'element-plus';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { createMemoryHistory, createRouter } from 'vue-router';
import type { LiveAttempt } from '../../classroom/live-outcomes.ts';
import { useClassroom } from '../../classroom/use-classroom.ts';
import BenchTile from './BenchTile.vue';
import BoardBar from './BoardBar.vue';
import TodayPage from './TodayPage.vue';

const CLASS = '00000000-0000-4000-8000-0000000000c1';
const tile = (n: number, more: Partial<TodayTile> = {}): TodayTile => ({
  traineeId: `00000000-0000-4000-8000-00000000000${n}`,
  traineeName: ['Zed Amberly', 'Ada Brook', 'Milo Crane'][n]!,
  benchLabel: `Bench ${12 - n}`,
  lastThingIds: [],
  lastVersionId: null,
  lastSignedAt: null,
  today: [],
  pieces: 0,
  ...more,
});
const trainee = (n: number, group: string) => ({ id: tile(n).traineeId, name: tile(n).traineeName, group });
const router = createRouter({
  history: createMemoryHistory(),
  routes: ['today', 'sheet', 'setup'].map((name) => ({
    name,
    path: `/${name}/:classId?/:attemptId?`,
    component: { template: '<i />' },
  })),
});

beforeEach(() => {
  setActivePinia(createPinia());
  localStorage.clear();
});
/** Unmounted after each test; the body stays, since Element Plus keeps the place of its lists there. */
const mountedPages: VueWrapper[] = [];
afterEach(() => mountedPages.splice(0).forEach((page) => page.unmount()));

async function board(tiles: readonly TodayTile[] | null, groups: readonly string[] = ['', '', '']) {
  const classroom = useClassroom();
  classroom.tiles = tiles;
  classroom.detail = {
    trainees: groups.map((g, i) => trainee(i, g)),
    policy: {},
    timeZone: 'UTC',
  } as unknown as ClassDetail;
  const page = mount(TodayPage, {
    props: { classId: CLASS },
    global: { plugins: [router] },
    attachTo: document.body,
  });
  mountedPages.push(page);
  await flushPromises();
  return page;
}
const names = (page: Awaited<ReturnType<typeof board>>): string[] =>
  page.findAll('[data-trainee]').map((t) => t.attributes('data-trainee')!);
/** Chooses from a list by its label, as the list hands it over; the list itself is tested with the shared fields. */
async function pick(page: Awaited<ReturnType<typeof board>>, label: string, value: string): Promise<void> {
  const list = page.findAllComponents(ElSelect).find((s) => s.props('ariaLabel') === label)!;
  list.vm.$emit('change', value);
  await flushPromises();
}

describe('the page of today', () => {
  it('a class without trainees says what to do next, and shows no empty board', async () => {
    const page = await board([]);
    expect(page.text()).toContain('No trainees in this class yet.');
    expect(page.get('a.next').text()).toBe('Enter the class');
    expect(page.findComponent(BoardBar).exists()).toBe(false);
  });

  it('without a network it says so, and that work goes on', async () => {
    useClassroom().connection = 'away';
    const page = await board([tile(0)]);
    expect(page.get('[data-test=away]').text()).toContain('what you enter is kept and sent later');
  });

  it('stands as entered until another order is chosen, which the device keeps', async () => {
    const page = await board([tile(0), tile(1), tile(2)]);
    expect(names(page)).toEqual(['Zed Amberly', 'Ada Brook', 'Milo Crane']);
    await pick(page, 'Order of the board', 'name');
    expect(names(page)).toEqual(['Ada Brook', 'Milo Crane', 'Zed Amberly']);
    mountedPages.pop()!.unmount();
    setActivePinia(createPinia());
    expect(names(await board([tile(0), tile(1)]))).toEqual(['Ada Brook', 'Zed Amberly']);
  });

  it('a class in groups can be looked at by group; one without has no such list', async () => {
    await board([tile(0)], ['']);
    expect(document.querySelector('[aria-label="Group"]')).toBeNull();
    mountedPages.pop()!.unmount();
    const page = await board([tile(0), tile(1), tile(2)], ['morning', 'evening', 'morning']);
    await pick(page, 'Group', 'morning');
    expect(names(page)).toEqual(['Zed Amberly', 'Milo Crane']);
    expect(page.get('[aria-label="Benches shown"] button').text()).toBe('All 2');
  });

  it('the room screen is larger, and stays so on this device', async () => {
    const page = await board([tile(0)]);
    expect(page.find('.tiles.room').exists()).toBe(false);
    await page
      .findAll('button')
      .find((b) => b.text() === 'Room screen')!
      .trigger('click');
    expect(page.find('.tiles.room').exists()).toBe(true);
    expect(localStorage.getItem('board-size')).toBe('room');
  });
});

describe('the bar of the board', () => {
  const props = {
    all: 16,
    counts: [
      { kind: 'calls', n: 1 },
      { kind: 'stuck', n: 3 },
    ] as const,
    filter: null,
    groups: [],
    group: '',
    order: 'class',
    room: false,
  } as const;

  it('tells how many benches want what, and filters by one tap, back by the next', async () => {
    const bar = mount(BoardBar, { props });
    expect(bar.findAll('.needs button').map((b) => b.text())).toEqual([
      'All 16',
      'Calls 1',
      'No entry for long 3',
    ]);
    await bar.get('[data-need=stuck]').trigger('click');
    expect(bar.emitted('filter')).toEqual([['stuck']]);
    await bar.setProps({ filter: 'stuck' });
    expect(bar.get('[data-need=stuck]').attributes('aria-pressed')).toBe('true');
    await bar.get('[data-need=stuck]').trigger('click');
    expect(bar.emitted('filter')![1]).toEqual([null]);
  });
});

describe('a tile', () => {
  const live = {
    attempt: { id: 'a', startedAt: '2026-03-09T09:20:00Z', pieceLabel: 'ZA-1' },
    sheet: { id: 'clear-mark/bench-cleave', title: 'Bench cleave with inspection', steps: [{}, {}, {}] },
    outcome: { verdict: 'incomplete', share: 0.4, stops: [] },
    stepNumber: 2,
    stepTitle: 'Cleave inspected',
    hand: null,
    timers: [],
  } as unknown as LiveAttempt;
  const now = Date.parse('2026-03-09T10:00:00Z');
  const mounted = (open: LiveAttempt[], needs: { kind: 'stuck'; words: string }[] = []) =>
    mount(BenchTile, {
      props: { bench: { tile: tile(0), open }, needs, classId: CLASS, now },
      global: { plugins: [router] },
    });

  it('says who, which step, the method in few words, how far and since when, and what it wants', async () => {
    const shown = mounted([live], [{ kind: 'stuck', words: 'No entry for 14 min' }]);
    expect(shown.text()).toContain('Cleave inspected');
    expect(shown.get('.method').text()).toBe('Bench cleave');
    expect(shown.get('.method').attributes('title')).toBe('Bench cleave with inspection');
    expect(shown.text()).toContain('Bench 12 · 2 of 3 · 40 min');
    expect(shown.get('[data-need=stuck]').text()).toBe('No entry for 14 min');
    await shown.get('button.main').trigger('click');
    expect(shown.emitted('open')).toEqual([[live]]);
  });

  it('with nothing open one tap starts a piece', async () => {
    const shown = mounted([]);
    expect(shown.text()).toContain('Start a piece');
    expect(shown.text()).toContain('nothing made yet');
    await shown.get('button.main').trigger('click');
    expect(shown.emitted('open')).toEqual([[null]]);
  });
});
