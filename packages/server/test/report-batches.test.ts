import type { ReportBatch } from '@clear-mark/contract';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { v7 } from 'uuid';
import { beforeEach, describe, expect, it } from 'vitest';
import { startServer } from '../src/index.ts';
import { fileOf } from '../src/report-batches/set-batch.ts';
import { wholePiece } from './harness.ts';
import { openAttempt } from './open-attempt.ts';
import { unzip } from './unzip.ts';

const own = openAttempt();
const path = (rest = ''): string => `/classes/${own.classroom.id}/report-batches${rest}`;
const start = (more: object = {}) =>
  own.api.post(path(), { id: v7(), paper: 'A4', locale: 'en-GB', ...more });
const stateOf = async (id: string): Promise<ReportBatch> => (await own.api.get(path(`/${id}`))).body;
async function ended(id: string): Promise<ReportBatch> {
  for (;;) {
    const batch = await stateOf(id);
    if (batch.state !== 'running') return batch;
    await new Promise((done) => setTimeout(done, 100));
  }
}
async function wordsOf(bytes: Buffer): Promise<string> {
  const document = await getDocument({ data: new Uint8Array(bytes), verbosity: 0 }).promise;
  const { items } = await (await document.getPage(1)).getTextContent();
  return items
    .map((item) => ('str' in item ? item.str : ''))
    .join('')
    .replace(/\s/g, '');
}

describe('a batch of reports', () => {
  beforeEach(async () => {
    const entries = wholePiece(own.attemptId, own.teacher, await own.references());
    await own.receiptsOf(own.api, entries);
    await own.sign(entries.map((e) => e.id));
  });

  it('sets the class report and every record, and gives them as one file to whoever asked', async () => {
    const { body } = await start();
    expect(body as ReportBatch).toMatchObject({ state: 'running', done: 0, total: 2 });
    const { id } = body as ReportBatch;
    expect(await ended(id)).toMatchObject({ state: 'done', done: 2 });
    expect((await own.api.get(path())).body).toMatchObject({ id, state: 'done' });
    const reply = await own.api.bytes('GET', path(`/${id}/reports.zip`));
    const files = await unzip(reply.body);
    expect(files.size).toBe(2);
    const ofClass = [...files][0];
    const ofTrainee = [...files][1];
    expect(ofClass![0]).toMatch(/^000 Class /);
    expect(ofTrainee![0]).toBe(`001 ${own.trainee.name}.pdf`);
    expect(await wordsOf(ofTrainee![1])).toContain(own.trainee.name.replace(/\s/g, ''));
    // A colleague has none of it, and somebody of another class less.
    await own.api.post(`/classes/${own.classroom.id}/members`, {
      personId: own.other.id,
      role: 'instructor',
      newPerson: null,
    });
    const colleague = await own.world.signedIn(own.other);
    expect((await colleague.bytes('GET', path(`/${id}/reports.zip`))).code).toBe('not_found.job');
    const stranger = await own.world.signedIn(await own.world.person('instructor'));
    expect((await stranger.get(path(`/${id}`))).problem.code).toBe('auth.not_in_class');
  });
  it('is cancelled, once, and gives no file', async () => {
    const { id } = (await start()).body as ReportBatch;
    expect((await start()).problem.code).toBe('report.batch_running');
    expect((await own.api.call('DELETE', path(`/${id}`))).status).toBe(200);
    expect((await own.api.call('DELETE', path(`/${id}`))).problem.code).toBe('not_found.job');
    expect(await stateOf(id)).toMatchObject({ state: 'cancelled' });
    expect((await own.api.bytes('GET', path(`/${id}/reports.zip`))).code).toBe('not_found.job');
  });
});

describe('what is refused', () => {
  it.each([[{ locale: 'no language' }], [{ paper: 'A3' }], [{ id: 'x' }]])('%j', async (more) => {
    expect((await start(more)).problem.code).toBe('request.bad_field');
  });
});

describe('the name of a file', () => {
  it.each([
    [1, 'Ysolde Brack', '001 Ysolde Brack.pdf'],
    [2, '../../etc/passwd', '002 .. .. etc passwd.pdf'],
    [3, 'CON: a*b?', '003 CON a b.pdf'],
    [12, 'Łukasz Öhm.', '012 Łukasz Öhm.pdf'],
  ])('%i of %s', (number, name, file) => expect(fileOf(number, name)).toBe(file));
});

describe('a batch whose process ends', () => {
  it('goes on in another process when the first one stops', async () => {
    const { id } = (await start()).body as ReportBatch;
    const { world } = own;
    const second = await startServer({
      databaseUrl: world.appUrl,
      ownerUrl: world.url,
      mode: 'test',
      host: '127.0.0.1',
      port: 0,
      tls: null,
      webDir: null,
      logLevel: 'silent',
    });
    await world.server.stop();
    try {
      for (;;) {
        const row = await second.db('report_batches').where({ id }).first();
        if (row.state === 'done') break;
        expect(row.state).toBe('running');
        await new Promise((done) => setTimeout(done, 100));
      }
    } finally {
      await second.stop();
    }
  });
});
