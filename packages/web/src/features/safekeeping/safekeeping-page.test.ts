// @vitest-environment happy-dom
import { ROUTES } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import { freshPages, openPage, settled, TestServer } from '../../../test/page.ts';
import SafekeepingPage from './SafekeepingPage.vue';

freshPages();

const view = (more: object = {}) => ({
  backups: [],
  lastGoodBackup: null,
  checks: [],
  heads: [],
  headsInFiles: true,
  roleIsBound: true,
  ...more,
});
const page = () => openPage(SafekeepingPage, { as: 'lead' });

describe('how safe the records are', () => {
  it('waits with its shape, and says what went wrong', async () => {
    const answer = new TestServer().hold(ROUTES.safekeeping, view());
    const waiting = await page();
    expect(waiting.page.find('.el-skeleton').exists()).toBe(true);
    answer();
    await settled();
    expect(waiting.page.text()).toContain('Not checked yet.');
  });
  it('without the server tells so', async () => {
    new TestServer();
    expect((await page()).page.get('[role=alert]').text()).toContain('does not answer');
  });
  it('a check shows that it is under way, then what it found', async () => {
    const checked = view({
      checks: [{ at: new Date().toISOString(), by: 'Ysolde Brack', revisions: 12, findings: [] }],
    });
    const server = new TestServer().on(ROUTES.safekeeping, view());
    const answer = server.hold(ROUTES.checkRecords, checked);
    const { page: shown, press } = await page();
    await press('Check the records now');
    expect(shown.get('[data-test=check-now]').text()).toContain('Checking every record');
    answer();
    await settled();
    expect(shown.get('[data-test=check-now]').text()).toContain('Check the records now');
    expect(shown.text()).not.toContain('Not checked yet.');
    // What it replied is shown without another question.
    expect(server.of(ROUTES.safekeeping)).toHaveLength(1);
  });
  it('a check that failed leaves what was there', async () => {
    new TestServer()
      .on(ROUTES.safekeeping, view())
      .refuse(ROUTES.checkRecords, 503, 'server.busy', 'The server is busy.');
    const { page: shown, press } = await page();
    await press('Check the records now');
    expect(shown.get('[role=alert]').text()).toBe('The server is busy.');
    expect(shown.text()).toContain('Not checked yet.');
  });
});
