// @vitest-environment happy-dom
import { type ReportBatch, ROUTES } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import { CLASS, freshPages, holds, id, openPage, settled, shows, TestServer } from '../../../test/page.ts';
import BatchPanel from './BatchPanel.vue';

freshPages();
const batch = (state: ReportBatch['state'], done = 0): ReportBatch => ({ id: id(9), state, done, total: 17 });
const open = () => openPage(BatchPanel, { props: { classId: CLASS, paper: 'Letter' } });
const START = 'Class report and every record as a ZIP';

describe('all reports of a class', () => {
  it('are begun by a tap, tell how far they are, and are saved when they are done', async () => {
    const server = new TestServer()
      .on(ROUTES.newestReportBatch, null)
      .on(ROUTES.startReportBatch, batch('running', 3))
      .on(ROUTES.reportBatch, batch('done', 17));
    const { page, press } = await open();
    await press(START);
    await shows(page, '3 of 17 reports');
    expect(server.of(ROUTES.startReportBatch)[0]!.body).toMatchObject({
      paper: 'Letter',
      locale: expect.any(String),
    });
    await shows(page, 'Save the 17 reports');
    expect(page.get('a').attributes('href')).toBe(
      `/api/classes/${CLASS}/report-batches/${id(9)}/reports.zip`,
    );
  });
  it('are found again where they run, and are cancelled', async () => {
    const server = new TestServer()
      .on(ROUTES.newestReportBatch, batch('running', 5))
      .on(ROUTES.cancelReportBatch, { done: true })
      .on(ROUTES.reportBatch, batch('running', 6));
    const { page, press } = await open();
    await shows(page, '5 of 17 reports');
    await shows(page, '6 of 17 reports');
    server.on(ROUTES.reportBatch, batch('cancelled', 6));
    await press('Cancel');
    await shows(page, 'Cancelled.');
    const asked = server.of(ROUTES.reportBatch).length;
    await settled();
    expect(server.of(ROUTES.reportBatch).length).toBe(asked);
  });
  it('a batch that failed says so, and one that cannot begin gives the reason', async () => {
    new TestServer()
      .on(ROUTES.newestReportBatch, batch('failed', 2))
      .refuse(ROUTES.startReportBatch, 409, 'report.batch_running', 'They are being made already.');
    const { page, press } = await open();
    await shows(page, 'The server could not make them.');
    await press(START);
    await holds(() => expect(page.text()).toContain('They are being made already.'));
  });
});
