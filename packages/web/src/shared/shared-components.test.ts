// @vitest-environment happy-dom
import type { MapCriterion } from '@clear-mark/core';
import { describe, expect, it, vi } from 'vitest';
import { freshPages, openPage, pressAnywhere, settled } from '../../test/page.ts';
import FilterChips from './FilterChips.vue';
import KeptPicture from './KeptPicture.vue';
import MapField from './MapField.vue';
import { moved } from './moved.ts';
import OrderedList from './OrderedList.vue';
import TimeZoneField from './TimeZoneField.vue';
import { offerUndo } from './undo.ts';

freshPages();

describe('an order', () => {
  const items = ['Method', 'Started', 'Loss'].map((label) => ({ key: label, label }));
  it('is changed by the buttons at the end of a line, which stop at both ends', async () => {
    const { page, press, button } = await openPage(OrderedList, { props: { items, label: 'Columns' } });
    expect(button('Method earlier').attributes('disabled')).toBeDefined();
    expect(button('Loss later').attributes('disabled')).toBeDefined();
    await press('Started earlier');
    await press('Method later');
    expect(page.emitted('move')).toEqual([
      [1, 0],
      [0, 1],
    ]);
  });
  it('is read out as a list with its name', async () => {
    const { page } = await openPage(OrderedList, { props: { items, label: 'Columns' } });
    expect(page.get('ol').attributes('aria-label')).toBe('Columns');
    expect(page.findAll('li').map((l) => l.attributes('data-key'))).toEqual(['Method', 'Started', 'Loss']);
  });
  it('moves one and keeps the others as they were', () => {
    expect(moved(['a', 'b', 'c'], 0, 2)).toEqual(['b', 'c', 'a']);
    expect(moved(['a', 'b', 'c'], 2, 0)).toEqual(['c', 'a', 'b']);
    const list = ['a', 'b'];
    expect([moved(list, 0, 0), moved(list, 0, 5), moved(list, -1, 0)].every((l) => l === list)).toBe(true);
  });
});

describe('a kept picture', () => {
  it('that cannot be had is said in its place; another one is tried', async () => {
    const props = { src: '/a', alt: 'Face 3', width: 132, height: 99 };
    const { page } = await openPage(KeptPicture, { props });
    await page.get('img').trigger('load');
    await page.get('img').trigger('error');
    expect(page.emitted()).toMatchObject({ load: [[]], lost: [[]] });
    expect(page.get('[role=img]').attributes('aria-label')).toBe('Face 3: not within reach');
    expect(page.text()).toContain('not within reach');
    await page.setProps({ src: '/b' });
    expect(page.get('img').attributes('src')).toBe('/b');
  });
  it('that is small has no room for words, and a name all the same', async () => {
    const { page } = await openPage(KeptPicture, { props: { src: '/a', alt: '', width: 46, height: 34 } });
    await page.get('img').trigger('error');
    expect(page.text()).toBe('');
    expect(page.get('[role=img]').attributes('aria-label')).toBe('Picture: not within reach');
  });
});

describe('what is narrowed', () => {
  const chips = [
    { keys: ['from', 'to'], words: '2 Mar to now' },
    { keys: ['trainee'], words: 'Torvin Hale' },
  ];
  it('is taken away one by one, or all at once', async () => {
    const { page, press } = await openPage(FilterChips, { props: { chips } });
    await press('Remove: 2 Mar to now');
    await press('Show everything');
    expect(page.emitted('clear')).toEqual([[['from', 'to']]]);
    expect(page.emitted('all')).toHaveLength(1);
  });
  it('alone has no button for all, and nothing is no list', async () => {
    const one = await openPage(FilterChips, { props: { chips: chips.slice(1) } });
    expect(one.page.text()).not.toContain('Show everything');
    const none = await openPage(FilterChips, { props: { chips: [] } });
    expect(none.page.find('ul').exists()).toBe(false);
  });
});

describe('a change that can be taken back', () => {
  it('is said with its way back, and only the last one is offered', async () => {
    const back = vi.fn();
    offerUndo('Bench A is out of use.', vi.fn());
    offerUndo('Bench B is out of use.', back);
    await settled();
    await pressAnywhere('Undo');
    expect(back).toHaveBeenCalledTimes(1);
  });
});

describe('a zone of time', () => {
  it('shows the chosen one with its distance to UTC', async () => {
    const { page } = await openPage(TimeZoneField, { props: { modelValue: 'Asia/Kolkata' } });
    expect(page.text()).toContain('UTC+05:30');
  });
});

describe('the walk of the ports', () => {
  const criterion = {
    id: 'walk',
    kind: 'map',
    label: 'Walk',
    ports: 4,
    trunk: 'A',
    required: true,
  } as unknown as MapCriterion;
  const walk = (far: (number | null)[] | null, locked = false) =>
    openPage(MapField, {
      props: {
        criterion,
        outcome: {},
        entry: far ? { id: String(far), value: { kind: 'map', far } } : null,
        locked,
      },
    });
  it('light at a far port is handed over for the near one, and the next is at hand', async () => {
    const { page } = await walk(null);
    await page.get('button[aria-label="Light at far port 3"]').trigger('click');
    expect(page.emitted('value')).toEqual([[{ kind: 'map', far: [3, null, null, null] }]]);
    expect(page.get('.typed').text()).toContain('Near 2');
  });
  it('a port that lit for another is told, and not stored', async () => {
    const { page } = await walk([3, null, null, null]);
    await page.get('button[aria-label="Light at far port 3"]').trigger('click');
    expect(page.emitted('value')).toBeUndefined();
    expect(page.get('[role=alert]').text()).toMatch(/3/);
    expect(page.findAll('.clash')).toHaveLength(2);
  });
  it('what is typed is the same as what is tapped; 0 is no light, and what is no port is told', async () => {
    const { page } = await walk(null);
    await page.get('input').setValue('9');
    await page.get('input').trigger('keydown.enter');
    expect(page.get('[role=alert]').text()).toContain('9');
    await page.get('input').setValue('0');
    await page.get('input').trigger('keydown.enter');
    expect(page.emitted('value')).toEqual([[{ kind: 'map', far: [0, null, null, null] }]]);
  });
  it('the last port ends the walk', async () => {
    const { page } = await walk([1, 2, 3, null]);
    await page.get('button[aria-label="Light at far port 4"]').trigger('click');
    expect(page.emitted('done')).toHaveLength(1);
  });
  it('complete, a port that is not where it belongs is crossed, and can be walked again', async () => {
    const { page, press } = await walk([1, 2, 4, 3]);
    expect(page.findAll('line.wrong')).toHaveLength(2);
    expect(page.findAll('line.right')).toHaveLength(2);
    await page.get('button[aria-label="Near port 3, far port 4"]').trigger('click');
    await press('Walk 3 again');
    expect(page.emitted('value')).toEqual([[{ kind: 'map', far: [1, 2, null, 3] }]]);
  });
  it('signed, nothing is tapped', async () => {
    const { page } = await walk([1, 2, 3, 4], true);
    expect(page.get('button[aria-label="Light at far port 1"]').attributes('disabled')).toBeDefined();
    expect(page.find('input').exists()).toBe(false);
  });
});
