// @vitest-environment happy-dom
import { describe, expect, it } from 'vitest';
import { freshPages, openPage, settled } from '../../test/page.ts';
import FindPanel from './FindPanel.vue';
import { useFind } from './use-find.ts';

freshPages();

describe('the find panel', () => {
  async function find() {
    const opened = await openPage(FindPanel, { at: '/today' });
    useFind().open();
    await settled();
    const field = document.querySelector<HTMLInputElement>('.el-dialog input')!;
    const key = async (name: string): Promise<void> => {
      field.dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true, cancelable: true }));
      await settled();
    };
    const type = async (text: string): Promise<void> => {
      field.value = text;
      field.dispatchEvent(new Event('input', { bubbles: true }));
      await settled();
    };
    const hits = (): string[] =>
      [...document.querySelectorAll('#find-hits [role=option] b')].map((b) => b.textContent);
    const chosen = (): string =>
      document.querySelector('#find-hits [aria-selected=true] b')?.textContent ?? '';
    return { ...opened, field, key, type, hits, chosen };
  }
  it('shows places and acts before anything is typed', async () => {
    const { hits } = await find();
    expect(hits().length).toBeGreaterThan(3);
  });
  it('goes round its hits by the arrows, and says which is at hand', async () => {
    const { key, hits, chosen, field } = await find();
    await key('ArrowDown');
    expect(chosen()).toBe(hits()[1]);
    await key('ArrowUp');
    await key('ArrowUp');
    expect(chosen()).toBe(hits().at(-1));
    expect(field.getAttribute('aria-activedescendant')).toBe(`find-hit-${hits().length - 1}`);
  });
  it('takes what is typed before its field has the focus, and nothing else', async () => {
    const { field } = await find();
    const finder = useFind();
    const press = (key: string, more: KeyboardEventInit = {}): boolean =>
      finder.take(new KeyboardEvent('keydown', { key, ...more }));
    expect([...'rec'].every((key) => press(key))).toBe(true);
    expect([press('Shift'), press('c', { ctrlKey: true }), press('Enter')]).toEqual([false, false, false]);
    await settled();
    expect(field.value).toBe('rec');
    finder.isOpen = false;
    expect(press('x')).toBe(false);
    finder.open();
    expect(finder.text).toBe('');
  });
  it('says when nothing is called that', async () => {
    const { type } = await find();
    await type('qqqq zzzz');
    expect(document.body.textContent).toContain('Nobody and nothing here is called that.');
  });
});
