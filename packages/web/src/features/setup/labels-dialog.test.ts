// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils';
import { describe, expect, it } from 'vitest';
import { bench, detail } from '../../../test/class-detail.ts';
import ChoiceField from '../../shared/ChoiceField.vue';
import { freshPages, id, openPage, shows, TestServer } from '../../../test/page.ts';
import LabelsDialog from './LabelsDialog.vue';

freshPages();

describe('labels with codes', () => {
  const things = [
    bench,
    { ...bench, id: id(21), kind: 'cleaver', label: 'Cleaver 2' },
    { ...bench, id: id(22), label: 'Bench Z', retired: true },
  ] as const;
  const dialog = () => {
    new TestServer();
    return openPage(LabelsDialog, { props: { detail: detail({ things: [...things] }) } });
  };

  it('are for all equipment in use, for some of it, or for the trainees', async () => {
    const { page } = await dialog();
    await shows(page, '2 labels.');
    const only = page.findAllComponents({ name: 'ElSelect' }).find((s) => s.props('multiple'))!;
    only.vm.$emit('update:modelValue', [`clear-mark:thing:${id(21)}`]);
    await flushPromises();
    await shows(page, '1 label.');
    page.getComponent(ChoiceField).vm.$emit('change', 'trainees');
    await flushPromises();
    await shows(page, '2 labels.');
  });
  it('of pieces ask how many are made ahead', async () => {
    const { page } = await dialog();
    page.getComponent(ChoiceField).vm.$emit('change', 'pieces');
    await flushPromises();
    await shows(page, 'Next pieces of each');
    // No trainee of a class that is not open on this device has a piece yet.
    await shows(page, '0 labels.');
    expect(
      page
        .findAll('button')
        .find((b) => b.text() === 'Save as PDF')!
        .attributes('disabled'),
    ).toBeDefined();
  });
});
