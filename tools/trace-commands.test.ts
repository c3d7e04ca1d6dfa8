import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { readSor, sorOfTrace, traceToCsv, traceToJson, tracesIn, writeSor } from '@clear-mark/core';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { readTraceFile } from './read-trace-file.ts';
import { runMakeTraces, runReadTraces } from './trace-commands.ts';

interface Said {
  readonly ok: boolean;
  readonly reason?: string;
  readonly warnings: readonly string[];
  readonly events: readonly { position_m: number; kind: string; loss_db: number | null; ghost: boolean }[];
  readonly link: { loss_db: number; complete: boolean; why?: string; from_m: number; to_m: number };
}
let folder: string;
let made: string;
const json = <T>(file: string): T => JSON.parse(readFileSync(file, 'utf8')) as T;

beforeAll(async () => {
  vi.spyOn(console, 'log').mockImplementation(() => undefined);
  vi.spyOn(console, 'error').mockImplementation(() => undefined);
  folder = mkdtempSync(path.join(os.tmpdir(), 'clear-mark-traces-'));
  made = path.join(folder, 'made');
  expect(await runMakeTraces([made, '--count', '9', '--seed', '3'])).toBe(0);
});
afterAll(() => {
  vi.restoreAllMocks();
  rmSync(folder, { recursive: true });
});

describe('traces that were made', () => {
  it('are the same from the same seed, and others from another', async () => {
    const again = path.join(folder, 'again');
    const other = path.join(folder, 'other');
    await runMakeTraces([again, '--count', '2', '--seed', '3']);
    await runMakeTraces([other, '--count', '2', '--seed', '4']);
    const bytes = (of: string): string => readFileSync(path.join(of, 'trace-0001.sor')).toString('base64');
    expect(bytes(again)).toBe(bytes(made));
    expect(bytes(other)).not.toBe(bytes(made));
  });

  it('are read with their events and the loss of the link, which is that of its parts', async () => {
    const out = path.join(folder, 'out');
    expect(await runReadTraces([made, '--out', out])).toBe(0);
    expect(readdirSync(out)).toHaveLength(9);
    for (const name of readdirSync(made).filter((n) => n.endsWith('.truth.json'))) {
      const truth = json<{
        file: string;
        db_per_km: number;
        events: { position_m: number; kind: string; loss_db: number }[];
      }>(path.join(made, name));
      const said = json<Said>(path.join(out, `${truth.file}.json`));
      const real = said.events.filter((e) => !e.ghost);
      expect(real.map((e) => e.kind)).toEqual(truth.events.map((e) => e.kind));
      const parts = truth.events.slice(0, -1);
      const lengthM = parts.at(-1)!.position_m - parts[0]!.position_m;
      const wanted = parts.reduce((sum, e) => sum + e.loss_db, (truth.db_per_km * lengthM) / 1000);
      expect(said.link.complete).toBe(true);
      expect(Math.abs(said.link.loss_db - wanted)).toBeLessThan(0.05);
    }
  });
});

describe('a file of a folder', () => {
  const bytes = (): Uint8Array => new Uint8Array(readFileSync(path.join(made, 'trace-0001.sor')));

  it('that cannot be read is refused in words, and the next one is read all the same', async () => {
    const mixed = path.join(folder, 'mixed');
    await runMakeTraces([mixed, '--count', '1']);
    writeFileSync(path.join(mixed, 'a.sor'), 'not a trace');
    const spoilt = bytes();
    spoilt[spoilt.length - 20]! ^= 1;
    writeFileSync(path.join(mixed, 'b.SOR'), spoilt);
    const out = path.join(folder, 'mixed-out');
    expect(await runReadTraces([mixed, '--out', out])).toBe(1);
    expect(json<Said>(path.join(out, 'a.sor.json'))).toEqual({
      file: 'a.sor',
      ok: false,
      reason: 'This is no trace file of an OTDR (SOR).',
      warnings: [],
    });
    expect(json<Said>(path.join(out, 'b.SOR.json')).reason).toMatch(/changed or damaged/);
    expect(json<Said>(path.join(out, 'trace-0001.sor.json')).ok).toBe(true);
  });

  it('of our own as CSV or JSON is read as the file that it came from', async () => {
    const own = path.join(folder, 'own');
    await runMakeTraces([own, '--count', '1', '--seed', '3']);
    const [trace] = tracesIn(readSor(bytes()));
    writeFileSync(path.join(own, 'a.trace.csv'), traceToCsv(trace!));
    writeFileSync(path.join(own, 'b.trace.json'), traceToJson(trace!));
    writeFileSync(path.join(own, 'c.trace.csv'), 'x,y');
    const out = path.join(folder, 'own-out');
    expect(await runReadTraces([own, '--out', out])).toBe(1);
    const [sor, csv, json3] = ['trace-0001.sor', 'a.trace.csv', 'b.trace.json'].map(
      (name) => json<Said>(path.join(out, `${name}.json`)).events,
    );
    expect(csv).toEqual(sor);
    expect(json3).toEqual(sor);
    expect(json<Said>(path.join(out, 'c.trace.csv.json')).reason).toContain('Line 1');
  });

  it('without marks has the loss from the port to the end, and says so', () => {
    const file = readSor(bytes());
    const bare = { ...file, blocks: file.blocks.filter((b) => b.name !== 'LnkParams') };
    const said = readTraceFile('x', writeSor(bare)) as unknown as Said;
    expect(said.link).toMatchObject({ from_m: 0, complete: false });
    expect(said.link.why).toContain('does not mark');
  });

  it('whose link ends with its fiber has no receive cord, one that begins at the port no launch cord', () => {
    const [trace] = tracesIn(readSor(bytes()));
    const { events } = readTraceFile('x', bytes()) as unknown as Said;
    const labels = { cableId: '', fiberId: '', from: '', to: '', operator: '', comment: '', takenAtS: 0 };
    const end = events.at(-1)!.position_m;
    const first = events[0]!.position_m;
    const link = (marks: number[]): Said['link'] =>
      (readTraceFile('x', writeSor(sorOfTrace(trace!, labels, [], marks))) as unknown as Said).link;
    expect(link([first, end])).toMatchObject({
      complete: false,
      why: expect.stringContaining('receive cord'),
    });
    expect(link([0, first])).toMatchObject({ complete: false, why: expect.stringContaining('launch cord') });
  });

  it('whose table says otherwise than its points is told where', () => {
    const [trace] = tracesIn(readSor(bytes()));
    const labels = { cableId: '', fiberId: '', from: '', to: '', operator: '', comment: '', takenAtS: 0 };
    const listed = {
      kind: 'reflective',
      lossDb: 0.2,
      reflectanceDb: -50,
      saturated: false,
      comment: '',
    } as const;
    const { events } = readTraceFile('x', bytes()) as unknown as Said;
    const table = [
      { ...listed, positionM: events[0]!.position_m },
      { ...listed, positionM: 50 },
    ];
    const said = readTraceFile('x', writeSor(sorOfTrace(trace!, labels, table))) as unknown as Said;
    expect(said.warnings).toContain('The file lists an event at 50.0 m that is not on the trace.');
    expect(said.warnings.filter((w) => w.includes('does not list'))).toHaveLength(events.length - 1);
  });
});

describe('a call', () => {
  it.each([[[]], [['/nowhere', '--out', '/tmp/x']], [['.']]])('%j is refused', async (args) => {
    expect(await runReadTraces(args)).toBe(2);
  });
  it.each([[[]], [['x', '--count', '0']], [['x', '--seed', 'a']]])('%j makes nothing', async (args) => {
    expect(await runMakeTraces(args)).toBe(2);
  });
});
