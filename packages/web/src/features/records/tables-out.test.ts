// @vitest-environment happy-dom
import { CSV_TABLE_NAMES } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import { CLASS, freshPages, holds, openPage, TestServer } from '../../../test/page.ts';
import TablesOut from './TablesOut.vue';

freshPages();
describe('the tables of a class', () => {
  it('are taken out by the filter of the records, each by its own address, with the mark that is chosen', async () => {
    new TestServer();
    const { page, press } = await openPage(TablesOut, {
      props: { classId: CLASS, filter: { verdict: 'failed' } },
    });
    await press('Take out');
    const links = (): string[] => [...document.querySelectorAll('a.act')].map((a) => a.getAttribute('href')!);
    await holds(() => expect(links()).toHaveLength(CSV_TABLE_NAMES.length + 1));
    expect(links()[0]).toBe(`/api/classes/${CLASS}/attempts.csv?verdict=failed&decimal=point`);
    page.getComponent({ name: 'ElSegmented' }).vm.$emit('update:modelValue', 'comma');
    await holds(() =>
      expect(
        links()
          .slice(0, -1)
          .every((href) => href.endsWith('decimal=comma')),
      ).toBe(true),
    );
  });
  it('a lead takes the whole class out as an archive', async () => {
    new TestServer();
    const { press } = await openPage(TablesOut, { as: 'lead', props: { classId: CLASS, filter: {} } });
    await press('Take out');
    await holds(() =>
      expect(document.querySelector(`a[href="/api/classes/${CLASS}/archive.zip"]`)?.textContent).toBe(
        'The class as an archive',
      ),
    );
  });
});
