// @vitest-environment happy-dom
import { enableAutoUnmount, flushPromises, mount } from '@vue/test-utils';
import { afterEach, describe, expect, it } from 'vitest';
import ChoiceField from './ChoiceField.vue';
import CommitField from './CommitField.vue';
import DayField from './DayField.vue';
import DayRange from './DayRange.vue';

enableAutoUnmount(afterEach);
const OPTIONS = [
  { value: 'a', label: 'Bench A' },
  { value: 'b', label: 'Bench B' },
];
/** Options make themselves known to their list a moment after it is there. */
async function choice(props: object = {}) {
  const field = mount(ChoiceField<string>, {
    props: { modelValue: 'a', label: 'Bench', options: OPTIONS, ...props },
    attachTo: document.body,
  });
  await flushPromises();
  return field;
}
const listed = (): string[] =>
  [...document.querySelectorAll('.el-select-dropdown__item')].map((el) => el.textContent.trim());

describe('one of several', () => {
  it('its label is the label of its field, and what is chosen is shown', async () => {
    const field = await choice();
    const label = field.get('label');
    expect(label.text()).toBe('Bench');
    expect(field.get('input').attributes('id')).toBe(label.attributes('for'));
    expect(field.text()).toContain('Bench A');
  });

  it('bare, its label is read out alone', async () => {
    const field = await choice({ bare: true });
    expect(field.find('label').exists()).toBe(false);
    expect(field.get('input').attributes('aria-label')).toBe('Bench');
  });

  it('a tap opens it, a tap on an option hands that over', async () => {
    const field = await choice();
    await field.get('.el-select__wrapper').trigger('click');
    await flushPromises();
    expect(listed()).toEqual(['Bench A', 'Bench B']);
    (document.querySelectorAll('.el-select-dropdown__item')[1] as HTMLElement).click();
    expect(field.emitted('change')).toEqual([['b']]);
    expect(field.emitted('update:modelValue')).toEqual([['b']]);
  });

  it('no choice is a choice with words of its own', async () => {
    const field = await choice({ modelValue: '', none: 'any' });
    expect(field.text()).toContain('any');
    await field.get('.el-select__wrapper').trigger('click');
    await flushPromises();
    expect(listed()).toEqual(['any', 'Bench A', 'Bench B']);
  });

  it('a long list is searched, a short one is not; one that is disabled takes nothing', async () => {
    const many = Array.from({ length: 12 }, (_, i) => ({ value: `${i}`, label: `Bench ${i}` }));
    expect((await choice({ options: many })).get('input').attributes('readonly')).toBeUndefined();
    expect((await choice()).get('input').attributes('readonly')).toBeDefined();
    expect((await choice({ disabled: true })).get('input').attributes('disabled')).toBeDefined();
  });
});

describe('a field that is handed over when it is left', () => {
  it('keeps its text while it is typed in, and goes back to what stands', async () => {
    const field = mount(CommitField, { props: { value: 'A', label: 'Group' } });
    const input = field.get('input');
    await input.setValue('B');
    expect(field.emitted('commit')).toEqual([['B']]);
    expect(input.element.value).toBe('A');
    await field.setProps({ value: 'B' });
    expect(input.element.value).toBe('B');
    await input.trigger('change');
    expect(field.emitted('commit')).toHaveLength(1);
  });
});

describe('days', () => {
  const range = (from: string, to: string) =>
    mount(DayRange, { props: { label: 'Days', from, to, today: '2026-03-11', course: null } });

  it('a range with one day alone goes on to today', () => {
    const values = (from: string, to: string) =>
      range(from, to)
        .findAll('input')
        .map((i) => i.element.value);
    expect(values('2026-03-02', '')).toEqual(['2026-03-02', '2026-03-11']);
  });

  it('a cleared day is none', () => {
    const field = mount(DayField, {
      props: { label: 'Calibrated on', modelValue: '2026-03-02', clearable: true },
    });
    expect(field.get('input').element.value).toBe('2026-03-02');
    field.getComponent({ name: 'ElDatePicker' }).vm.$emit('update:modelValue', null);
    expect(field.emitted('update:modelValue')).toEqual([[null]]);
  });
});
