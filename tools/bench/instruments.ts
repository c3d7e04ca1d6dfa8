import { connect, type Socket } from 'node:net';
import { createServer, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { chromium, type Page } from '@playwright/test';
import { type ScpiInstrument, type StandIn, startScpi } from '@clear-mark/standins';
import {
  migrate,
  openDatabase,
  readConfig,
  startServer,
  storesForLoading,
  syncShippedMethods,
} from '@clear-mark/server';
import { v7 } from 'uuid';
import { loadDemo } from '../load-demo.ts';
import { CHROMIUM } from './browser.ts';
import { type Measured, medianOf } from './measured.ts';

const INSTRUMENTS = 8;
const RATE = 20;
const SECONDS = 15;
const CLIENTS = 3;

/** Milliseconds of one clock for the page and for this process. */
const now = (): number => performance.timeOrigin + performance.now();

/** A meter whose every reading is a number of its own: counted down in thousandths of a dB, with the instant it left. */
function countingMeter(sent: Map<number, number>): ScpiInstrument {
  let n = 0;
  return {
    identity: 'Clear Mark stand-in,Counter,1,1',
    commands: {
      'SENSe:POWer:WAVelength': { ask: () => '1.31E-06' },
      'UNIT:POWer': { ask: () => 'DBM' },
      'READ:POWer': {
        ask: () => {
          n += 1;
          sent.set(n, now());
          return String(-n / 1000);
        },
      },
    },
    reset: () => undefined,
  };
}

/** What a client heard: instrument, number of the reading, instant. */
type Heard = readonly [instrument: string, n: number, at: number];

/** A client of an event stream in this process. `read` gives instrument and reading of a message, or null. */
async function listen(
  url: string,
  headers: Record<string, string>,
  read: (data: string) => readonly [string, number] | null,
  heard: Heard[],
  signal: AbortSignal,
): Promise<void> {
  const response = await fetch(url, { headers, signal });
  const decoder = new TextDecoder();
  let text = '';
  for await (const chunk of response.body as unknown as AsyncIterable<Uint8Array>) {
    const at = now();
    text += decoder.decode(chunk, { stream: true });
    for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
      const data = /^data: (.*)$/m.exec(text.slice(0, end))?.[1];
      text = text.slice(end + 2);
      const found = data ? read(data) : null;
      if (found) heard.push([...found, at]);
    }
  }
}

/** The same in the browser: messages and their instants are kept in the page until they are asked for. */
async function listenInPage(page: Page, path: string): Promise<() => Promise<(readonly [string, number])[]>> {
  await page.evaluate((where) => {
    const kept: [string, number][] = [];
    (window as unknown as { kept: typeof kept }).kept = kept;
    new EventSource(where).onmessage = ({ data }) =>
      kept.push([String(data), performance.timeOrigin + performance.now()]);
  }, path);
  return () => page.evaluate(() => (window as unknown as { kept: [string, number][] }).kept);
}

interface Through {
  readonly delays: number[];
  readonly readings: number;
  readonly lost: number;
  readonly doubled: number;
}

/** Delays of what every client heard, and whether each heard every reading between its first and its last once. */
function judge(clients: readonly Heard[][], sent: ReadonlyMap<string, ReadonlyMap<number, number>>): Through {
  const delays: number[] = [];
  let lost = 0;
  let doubled = 0;
  for (const heard of clients) {
    for (const [instrument, times] of sent) {
      const numbers = heard.filter(([i]) => i === instrument).map(([, n]) => n);
      const distinct = new Set(numbers);
      doubled += numbers.length - distinct.size;
      lost += numbers.length === 0 ? 1 : Math.max(...numbers) - Math.min(...numbers) + 1 - distinct.size;
      for (const [i, n, at] of heard) if (i === instrument) delays.push(at - times.get(n)!);
    }
  }
  return { delays, readings: delays.length, lost, doubled };
}

/**
 * Readings of eight instruments, twenty a second each, to one browser and three event-stream clients, against a bare
 * relay in the same run that asks the same instruments and passes each answer on as it comes.
 */
export async function benchInstruments(url: string): Promise<Measured> {
  const browser = await chromium.launch(CHROMIUM);
  const ours = await through(url, browser.newPage());
  const bare = await relay(await browser.newPage());
  await browser.close();
  const right = ours.lost === 0 && ours.doubled === 0;
  const mine = medianOf(ours.delays);
  const theirs = medianOf(bare.delays);
  return {
    name: 'readings of 8 instruments to 4 listeners, delay / bare relay',
    ratio: right ? mine / theirs : Infinity,
    most: 3,
    unit: 'times',
    detail: `${ours.readings} heard, ${ours.lost} lost, ${ours.doubled} doubled; median ${mine.toFixed(2)} ms, relay ${theirs.toFixed(2)} ms (${bare.readings} heard)`,
  };
}

async function meters(): Promise<{ standIns: StandIn[]; sent: Map<number, number>[] }> {
  const sent = Array.from({ length: INSTRUMENTS }, () => new Map<number, number>());
  return { standIns: await Promise.all(sent.map((s) => startScpi(countingMeter(s)))), sent };
}

async function through(url: string, opening: Promise<Page>): Promise<Through> {
  const db = openDatabase(url, 4);
  await migrate(db);
  await syncShippedMethods(db);
  await loadDemo(db, { seed: 7, story: true, now: new Date() });
  const { standIns, sent } = await meters();
  const [classId] = (await db('classes').where('name', 'like', '%crew 3').pluck('id')) as string[];
  const { classes, instruments } = storesForLoading(db);
  const ids: string[] = [];
  for (const [i, standIn] of standIns.entries()) {
    const id = v7();
    ids.push(id);
    await classes.insertThing(classId!, { id, kind: 'instrument', label: `Counter ${i + 1}` });
    await instruments.save(classId!, id, {
      kind: 'power_meter',
      host: '127.0.0.1',
      port: standIn.port,
      readingsPerSecond: RATE,
      calibratedOn: null,
      calibrationDueOn: null,
    });
  }
  const server = await startServer(
    readConfig({ DATABASE_URL: url, CLEAR_MARK_MODE: 'demo', CLEAR_MARK_LOG_LEVEL: 'error' }),
  );
  const page = await opening;
  const path = `/api/classes/${classId}/instrument-events?things=${ids.join(',')}`;
  const signIn = await page.request.post(`${server.url}/api/session/demo`, { data: { role: 'lead' } });
  const cookie = signIn.headers()['set-cookie']!.split(';')[0]!;
  await page.goto(`${server.url}/api/health`);
  const read = (data: string): readonly [string, number] | null => {
    const event = JSON.parse(data) as { kind: string; thingId: string; text?: string };
    return event.kind === 'power' && event.text
      ? [event.thingId, Math.round(-Number(event.text) * 1000)]
      : null;
  };
  const control = new AbortController();
  const heard: Heard[][] = Array.from({ length: CLIENTS }, () => []);
  const fromPage = await listenInPage(page, path);
  heard.forEach(
    (h) => void listen(server.url + path, { Cookie: cookie }, read, h, control.signal).catch(() => 0),
  );
  await page.waitForTimeout(SECONDS * 1000);
  const inPage = (await fromPage()).flatMap(([data, at]): Heard[] => {
    const found = read(data);
    return found ? [[...found, at]] : [];
  });
  control.abort();
  await page.goto('about:blank');
  await server.stop();
  await Promise.all(standIns.map((s) => s.stop()));
  await db.destroy();
  return judge([...heard, inPage], new Map(ids.map((id, i) => [id, sent[i]!])));
}

/** Asks the instruments at the same rate and writes each answer to every listener, and nothing else. */
async function relay(page: Page): Promise<Through> {
  const { standIns, sent } = await meters();
  const listeners = new Set<ServerResponse>();
  const server = createServer((request, response) => {
    if (request.url === '/') return void response.setHeader('Content-Type', 'text/html').end('<p>relay</p>');
    response.writeHead(200, { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store' });
    response.socket?.setNoDelay(true);
    listeners.add(response);
    response.on('close', () => listeners.delete(response));
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const sockets: Socket[] = [];
  const timers = standIns.map((standIn, i) => {
    const socket = connect(standIn.port, '127.0.0.1');
    socket.setNoDelay(true);
    sockets.push(socket);
    socket.on('data', (text) => {
      const value = String(text).trim().split(';')[2];
      for (const response of listeners) response.write(`data: ${i} ${value}\n\n`);
    });
    return setInterval(() => socket.write('SENS:POW:WAV?;:UNIT:POW?;:READ:POW?\n'), 1000 / RATE);
  });
  const read = (data: string): readonly [string, number] | null => {
    const [i, value] = data.split(' ');
    return [i!, Math.round(-Number(value) * 1000)];
  };
  await page.goto(base);
  const control = new AbortController();
  const heard: Heard[][] = Array.from({ length: CLIENTS }, () => []);
  const fromPage = await listenInPage(page, '/events');
  heard.forEach((h) => void listen(`${base}/events`, {}, read, h, control.signal).catch(() => 0));
  await page.waitForTimeout(SECONDS * 1000);
  const inPage = (await fromPage()).map(([data, at]): Heard => [...read(data)!, at]);
  control.abort();
  timers.forEach(clearInterval);
  sockets.forEach((s) => s.destroy());
  server.closeAllConnections();
  server.close();
  await Promise.all(standIns.map((s) => s.stop()));
  return judge([...heard, inPage], new Map(sent.map((s, i) => [String(i), s])));
}
