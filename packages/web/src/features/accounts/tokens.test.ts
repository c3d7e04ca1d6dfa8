// @vitest-environment happy-dom
import { type ApiToken, ROUTES } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import { freshPages, holds, id, openPage, settled, shows, TestServer } from '../../../test/page.ts';
import TokensPanel from './TokensPanel.vue';

freshPages();
const TOKEN: ApiToken = {
  id: id(3),
  label: 'Sheet of the office',
  rights: ['results'],
  madeAt: '2026-06-01T10:00:00.000Z',
  until: '2026-09-01T10:00:00.000Z',
  lastUsed: null,
};

describe('tokens for scripts', () => {
  it('one is made for what was chosen, shown once, and gone from the page by a tap', async () => {
    const server = new TestServer()
      .on(ROUTES.apiTokens, [])
      .on(ROUTES.addApiToken, { token: 'clear-mark-abc', until: TOKEN.until });
    const { page, type, press } = await openPage(TokensPanel, { as: 'instructor' });
    await press('Make a token');
    await shows(page, 'Fill this in.');
    expect(server.of(ROUTES.addApiToken)).toEqual([]);
    await type('input[name=token-label]', 'Sheet of the office');
    await press('Make a token');
    await shows(page, 'clear-mark-abc');
    expect(server.of(ROUTES.addApiToken)[0]!.body).toMatchObject({
      label: 'Sheet of the office',
      rights: ['results'],
      days: 90,
    });
    await press('I have it');
    await settled();
    expect(page.text()).not.toContain('clear-mark-abc');
  });
  it('those that hold are listed with what they may, and ended', async () => {
    const server = new TestServer().on(ROUTES.apiTokens, [TOKEN]).on(ROUTES.endApiToken, { done: true });
    const { page, press } = await openPage(TokensPanel, { as: 'instructor' });
    await shows(page, 'never used');
    expect(page.text()).toContain('Read the results');
    server.on(ROUTES.apiTokens, []);
    await press('End Sheet of the office');
    await holds(() => expect(page.text()).not.toContain('Sheet of the office'));
    expect(server.of(ROUTES.endApiToken)[0]!.path).toContain(TOKEN.id);
  });
});
