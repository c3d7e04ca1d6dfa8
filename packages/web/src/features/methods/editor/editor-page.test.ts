// @vitest-environment happy-dom
import { copySheet, emptySheet, type MethodSheet } from '@clear-mark/core';
import { type MethodDraft, ROUTES } from '@clear-mark/contract';
import { LC_WEDGE_LOCATOR } from '@clear-mark/methods';
import { describe, expect, it } from 'vitest';
import {
  alerts,
  type Asked,
  CLASS,
  freshPages,
  holds,
  id,
  openPage,
  pressAnywhere,
  settled,
  shows,
  TestServer,
} from '../../../../test/page.ts';
import EditorPage from './EditorPage.vue';

freshPages();

const sheet = copySheet(LC_WEDGE_LOCATOR, 'own/ours-1', 'Ours');
const draft = (more: Partial<MethodDraft> = {}): MethodDraft => ({
  id: id(7),
  methodId: sheet.id,
  title: sheet.title,
  version: 1,
  revision: 1,
  editedBy: 'Ysolde Brack',
  editedAt: '2026-03-02T09:00:00.000Z',
  basedOn: null,
  sheet,
  ...more,
});
const saving = (asked: Asked): MethodDraft => {
  const body = asked.body as { revision: number; sheet: MethodSheet };
  return draft({ revision: body.revision + 1, sheet: body.sheet, title: body.sheet.title });
};
const open = () => openPage(EditorPage, { props: { classId: CLASS, draftId: id(7) }, as: 'lead' });
const measure = sheet.steps.flatMap((s) => s.criteria).find((c) => c.kind === 'measure')!;
const shortName = (criterion: { id: string }): string => criterion.id.split('/').pop()!;

describe('a draft on the page', () => {
  it('is edited, the sheet beside it follows, and is saved by itself', async () => {
    const server = new TestServer().on(ROUTES.methodDraft, draft()).on(ROUTES.saveDraft, saving);
    const { page, type } = await open();
    await page.get(`[data-pick="${shortName(measure)}"]`).trigger('click');
    await settled();
    await type('[data-test=criterion-label] input, input[data-test=criterion-label]', 'Length, our way');
    expect(page.get('.try').text()).toContain('Length, our way');
    await holds(() => expect(server.of(ROUTES.saveDraft)).toHaveLength(1));
    await shows(page, 'Saved');
    const { revision, sheet: sent } = server.of(ROUTES.saveDraft)[0]!.body as {
      revision: number;
      sheet: MethodSheet;
    };
    expect(revision).toBe(1);
    expect(sent.steps.flatMap((s) => s.criteria).find((c) => c.id === measure.id)!.label).toBe(
      'Length, our way',
    );
  });

  it('a limit that cannot be scored is told with its place, and the sheet stays as it was', async () => {
    new TestServer().on(ROUTES.methodDraft, draft()).on(ROUTES.saveDraft, saving);
    const { page, button } = await open();
    await page.get(`[data-pick="${shortName(measure)}"]`).trigger('click');
    await settled();
    await page.get('input[data-test=limit-lower]').setValue('9000');
    await settled();
    expect(page.get('.problems').text()).toContain(`${measure.label} The lower limit`);
    expect(page.text()).toContain('As it was before the last change');
    expect(button('Publish').attributes('disabled')).toBeDefined();
    await page.get('.problems .jump').trigger('click');
    await settled();
    expect((page.get('input[data-test=limit-lower]').element as HTMLInputElement).value).toBe('9000');
  });

  it('what was removed comes back by undo, and goes again by redo', async () => {
    new TestServer().on(ROUTES.methodDraft, draft()).on(ROUTES.saveDraft, saving);
    const { page, press } = await open();
    const before = page.findAll('[data-pick]').length;
    await page.get(`[data-pick="${shortName(measure)}"]`).trigger('click');
    await settled();
    await press('Remove');
    expect(page.findAll('[data-pick]')).toHaveLength(before - 1);
    await press('Undo');
    expect(page.findAll('[data-pick]')).toHaveLength(before);
    await press('Redo');
    expect(page.findAll('[data-pick]')).toHaveLength(before - 1);
  });

  it('a criterion moves by Alt and the arrow', async () => {
    new TestServer().on(ROUTES.methodDraft, draft()).on(ROUTES.saveDraft, saving);
    const { page } = await open();
    const home = sheet.steps.find((s) => s.criteria.length > 1)!;
    const [first, second] = home.criteria.map(shortName);
    await page.get(`[data-pick="${first}"]`).trigger('click');
    await page.get('.outline').trigger('keydown', { key: 'ArrowDown', altKey: true });
    await settled();
    const order = page.findAll('[data-pick]').map((b) => b.attributes('data-pick'));
    expect(order.indexOf(first)).toBe(order.indexOf(second) + 1);
  });

  it('what another lead saved meanwhile comes in beside one’s own change', async () => {
    const theirs = { ...sheet, summary: 'Theirs.' };
    const merged = (asked: Asked): MethodDraft => {
      const { sheet: sent } = asked.body as { sheet: MethodSheet };
      return draft({ revision: 5, sheet: { ...sent, summary: theirs.summary } });
    };
    const server = new TestServer().on(ROUTES.methodDraft, draft()).on(ROUTES.saveDraft, merged);
    const { page } = await open();
    await page.get('input[data-test=method-title]').setValue('Ours, renamed');
    await holds(() => expect(server.of(ROUTES.saveDraft)).toHaveLength(1));
    await holds(() =>
      expect((page.get('textarea[data-test=method-summary]').element as HTMLTextAreaElement).value).toBe(
        'Theirs.',
      ),
    );
    expect((page.get('input[data-test=method-title]').element as HTMLInputElement).value).toBe(
      'Ours, renamed',
    );
  });

  it('the same changed by both is said, and theirs is loaded when that is asked for', async () => {
    const server = new TestServer()
      .on(ROUTES.methodDraft, draft())
      .refuse(ROUTES.saveDraft, 409, 'versions.edited_twice', 'Somebody else changed the same.');
    const { page, press } = await open();
    await page.get('input[data-test=method-title]').setValue('Mine');
    await shows(page, 'Somebody else changed the same.');
    expect(page.text()).toContain('Not saved');
    server.on(ROUTES.methodDraft, draft({ revision: 2, sheet: { ...sheet, title: 'Theirs' } }));
    await press('Load theirs');
    expect(page.get('h1').text()).toBe('Theirs');
    expect(alerts(page)).toEqual([]);
  });

  it('without the server what was written stays, and is sent with the next change', async () => {
    const server = new TestServer().on(ROUTES.methodDraft, draft());
    const { page } = await open();
    await page.get('input[data-test=method-title]').setValue('First');
    await shows(page, 'Not saved');
    server.on(ROUTES.saveDraft, saving);
    await page.get('input[data-test=method-title]').setValue('Second');
    await holds(() => expect(page.get('[data-test=save-state]').text()).toBe('Saved'));
    expect(page.get('h1').text()).toBe('Second');
  });

  it('is published after it was asked about, and its version is opened', async () => {
    const made = { id: id(8), methodId: sheet.id, version: 1, state: 'in_force', sheet };
    const server = new TestServer()
      .on(ROUTES.methodDraft, draft())
      .on(ROUTES.saveDraft, saving)
      .on(ROUTES.publishDraft, made);
    const { press, router } = await open();
    await press('Publish');
    await pressAnywhere('Publish', '.el-message-box');
    await holds(() => expect(router.currentRoute.value.name).toBe('method'));
    expect(server.of(ROUTES.publishDraft)[0]!.body).toEqual({ revision: 1, classId: CLASS });
  });

  it('a draft that is not there is said', async () => {
    new TestServer().refuse(ROUTES.methodDraft, 404, 'not_found.method_draft', 'That draft is not there.');
    const { page } = await open();
    expect(alerts(page)).toEqual(['That draft is not there.']);
  });
});

describe('an empty method', () => {
  it('gets a step, a criterion of each kind, and says what is left to write', async () => {
    const empty = { ...emptySheet(sheet.id, 'Empty'), steps: [] };
    new TestServer().on(ROUTES.methodDraft, draft({ sheet: empty })).on(ROUTES.saveDraft, saving);
    const { page, press } = await open();
    expect(page.text()).toContain('as soon as it has a criterion that can be scored');
    await press('Add a step');
    expect(page.get('.problems').text()).toContain('Nothing is scored in this step');
    await press('Add a criterion to New step');
    const kinds = [...document.querySelectorAll<HTMLElement>('.el-dropdown-menu__item')];
    expect(kinds.map((k) => k.textContent.trim())).toContain('Described scale');
    kinds.find((k) => k.textContent.trim() === 'Check, passed or failed')!.click();
    await settled();
    expect(page.findAll('[data-pick]')).toHaveLength(1);
    expect(page.get('.try').text()).toContain('Incomplete');
  });
});
