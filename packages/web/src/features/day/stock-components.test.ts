// @vitest-environment happy-dom
import { ROUTES } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import { detail } from '../../../test/class-detail.ts';
import { CLASS, freshPages, id, openPage, settled, TestServer } from '../../../test/page.ts';
import ChoiceField from '../../shared/ChoiceField.vue';
import { courseMethod, ITEMS, thing } from './day-for-tests.ts';
import ShoppingPanel from './shopping/ShoppingPanel.vue';
import StockPanel from './stock/StockPanel.vue';

freshPages();

describe('the stock', () => {
  const lot = thing(
    id(61),
    'batch',
    { item: 'primer', uses: 200 },
    {
      left: 40,
      used: 160,
      lastsDays: 3.4,
      warnings: ['runs_out'],
      events: [
        {
          id: id(90),
          act: 'corrected',
          left: 40,
          reason: 'spilled',
          by: 'Ysolde Brack',
          at: '2026-09-14T08:30:00.000Z',
        },
      ],
    },
  );
  const splicer = thing(id(62), 'splicer', { uses: 1500 }, { left: 900, used: 600 });
  const server = () =>
    new TestServer()
      .on(ROUTES.stock, { things: [splicer, lot], items: ITEMS })
      .on(ROUTES.addStockItem, {
        id: 'Heat_pad',
        label: 'Heat pad',
        kind: 'supply',
        unit: 'pieces',
        pack: 50,
        openedDays: null,
      })
      .on(ROUTES.addThingEvent, { done: true })
      .on(ROUTES.setThing, { done: true })
      .on(ROUTES.addThing, { id: id(63), kind: 'film', label: 'x', retired: false });
  const stock = async () => {
    const asked = server();
    const opened = await openPage(StockPanel, { props: { classId: CLASS } });
    await settled();
    return { asked, ...opened };
  };
  it('shows what is left and what runs out first', async () => {
    const { page } = await stock();
    expect(page.text()).toContain('1 to look at.');
    const lines = page.findAll('.el-table__row').map((r) => r.text());
    expect(lines[0]).toContain('40 of 200 connectors');
    expect(lines[0]).toContain('3 days');
    expect(lines[0]).toContain('runs out soon');
    expect(lines[1]).toContain('900 of 1500 arcs');
  });
  it('a service is one tap; a count is put right only with a reason', async () => {
    const { page, asked, press } = await stock();
    await press('Electrodes changed');
    await settled();
    expect(asked.of(ROUTES.addThingEvent)[0]!.body).toMatchObject({ act: 'serviced', left: null });
    await page.findAll('.el-table__row')[0]!.findAll('button').at(-1)!.trigger('click');
    await settled();
    expect(document.body.textContent).toContain('count put right to 40, spilled (Ysolde Brack)');
    const put = document.querySelector<HTMLButtonElement>('[data-test=correct]')!;
    expect(put.disabled).toBe(true);
    const why = document.querySelector<HTMLInputElement>(
      'input[data-test=reason], [data-test=reason] input',
    )!;
    why.value = 'counted again';
    why.dispatchEvent(new Event('input'));
    await settled();
    put.click();
    await settled();
    expect(asked.of(ROUTES.addThingEvent)[1]!.body).toMatchObject({
      act: 'corrected',
      left: 40,
      reason: 'counted again',
    });
  });
  it('a new lot begins with what its pack has', async () => {
    const { asked, page, press } = await stock();
    page.findComponent(ChoiceField).vm.$emit('update:modelValue', 'film-12');
    await settled();
    await press('Add');
    await settled();
    expect(asked.of(ROUTES.addThing)[0]!.body).toMatchObject({
      kind: 'film',
      label: 'Film 12 µm, air polish',
    });
    expect(asked.of(ROUTES.setThing)[0]!.body).toMatchObject({ item: 'film-12', uses: 70 });
  });
  it('no lot is added of an item that the list does not have yet', async () => {
    const { page } = await stock();
    const add = (): boolean => page.find('form.add button[type=submit]').attributes('disabled') === undefined;
    page.findComponent(ChoiceField).vm.$emit('update:modelValue', 'Heat_pad');
    await settled();
    expect(add()).toBe(false);
    page.findComponent(ChoiceField).vm.$emit('update:modelValue', 'film-12');
    await settled();
    expect(add()).toBe(true);
  });
  it('an item that the class has of its own is named once and is there to be stocked', async () => {
    const { asked, page, press } = await stock();
    await press('An item of our own');
    await settled();
    const save = document.querySelector<HTMLButtonElement>('[data-test=save-item]')!;
    expect(save.disabled).toBe(true);
    const label = document.querySelector<HTMLInputElement>('input[data-test=item-label]')!;
    label.value = 'Heat pad';
    label.dispatchEvent(new Event('input'));
    await settled();
    save.click();
    await settled();
    expect(asked.of(ROUTES.addStockItem)[0]!.body).toMatchObject({ label: 'Heat pad', openedDays: null });
    expect(page.findComponent({ name: 'NewItemDialog' }).exists()).toBe(false);
  });
  it('says what went wrong', async () => {
    new TestServer();
    const { page } = await openPage(StockPanel, { props: { classId: CLASS } });
    await settled();
    expect(page.get('[role=alert]').text()).toContain('does not answer');
  });
});

describe('the course and what to buy for it', () => {
  const open = async (method = courseMethod('clear-mark/bench-cleave', { passed: 80, failed: 20 })) => {
    const server = new TestServer()
      .on(ROUTES.stock, { things: [], items: ITEMS })
      .on(ROUTES.classDetail, detail({}))
      .on(ROUTES.course, [method])
      .on(ROUTES.setCourseMethod, { done: true });
    const opened = await openPage(ShoppingPanel, { props: { classId: CLASS } });
    await settled();
    return { server, ...opened };
  };
  it('keeps the good pieces that are asked for, and lists what they need', async () => {
    const { page, server } = await open();
    expect(page.text()).toContain('80 % of 100 passed');
    expect(page.text()).toContain('Say how many good pieces each trainee is to make.');
    const field = page.get('input[aria-label^="Good pieces each"]');
    await field.setValue('20');
    await field.trigger('change');
    await settled();
    expect(server.of(ROUTES.setCourseMethod)[0]!.body).toEqual({
      methodId: 'clear-mark/bench-cleave',
      pieces: 20,
      work: null,
    });
    const set = await open(courseMethod('clear-mark/bench-cleave', { pieces: 20 }));
    expect(set.page.get('[data-test=shopping]').text()).toContain('Lint-free wipe');
  });
  it('a class says for itself what a piece takes, and can take it back', async () => {
    const { server, press, page } = await open();
    await press('Change');
    await settled();
    page.findComponent(ChoiceField).vm.$emit('update:modelValue', 'primer');
    await settled();
    document.querySelector<HTMLButtonElement>('[data-test=take-item]')!.click();
    await settled();
    document.querySelector<HTMLButtonElement>('[data-test=save-work]')!.click();
    await settled();
    expect(server.of(ROUTES.setCourseMethod)[0]!.body).toMatchObject({
      work: { items: { wipes: 4, primer: 1 }, tools: { cleaver: 1 }, cure: null, glueStep: null },
    });
    expect(page.findComponent({ name: 'MethodWorkDialog' }).exists()).toBe(false);
  });
});
