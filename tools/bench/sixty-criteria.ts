import { randomUUID } from 'node:crypto';
import { checkSheet, type MethodSheet, type Source } from '@clear-mark/core';
import { type Database, sheetDigest } from '@clear-mark/server';

const source: Source = { kind: 'house', fromMemory: false, words: 'for the benchmark' };

/** A sheet of 12 steps with five checks each, in force and in use in the demo's class. */
const SHEET: MethodSheet = {
  id: 'bench/sixty',
  version: 1,
  title: 'Sixty criteria',
  summary: 'For the benchmark of a tap.',
  pieceKind: 'connector',
  fiberClass: 'OS2',
  passMarkPercent: 80,
  passMarkSource: source,
  strip: { jacketMm: 70, bufferMm: 40, cleaveMm: 10.5 },
  cautions: [],
  thingsUsed: [],
  steps: Array.from({ length: 12 }, (_, s) => ({
    id: `step-${s}`,
    title: `Step ${s + 1}`,
    skill: (['strip', 'cleave', 'terminate', 'inspect'] as const)[s % 4]!,
    place: 'bench' as const,
    how: 'As the method says.',
    criteria: Array.from({ length: 5 }, (_, c) => ({
      id: `bench/sixty/c${s * 5 + c}`,
      kind: 'check' as const,
      label: `Criterion ${s * 5 + c + 1}`,
      points: 2,
      critical: false,
      required: true,
      source,
    })),
  })),
};

export async function sixtyCriteria(db: Database): Promise<void> {
  const id = randomUUID();
  await db('method_versions').insert({
    id,
    method_id: SHEET.id,
    version: 1,
    state: 'in_force',
    title: SHEET.title,
    sheet: JSON.stringify(checkSheet(SHEET)),
    digest: sheetDigest(SHEET),
  });
  for (const class_id of await db('classes').pluck('id')) {
    await db('class_methods').insert({ class_id, method_version_id: id, in_use: true });
  }
}
