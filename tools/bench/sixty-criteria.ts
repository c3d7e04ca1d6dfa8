import { randomUUID } from 'node:crypto';
import { checkSheet, type Criterion, DIRECTIONS, type MethodSheet, type Source } from '@clear-mark/core';
import { type Database, sheetDigest } from '@clear-mark/server';

const source: Source = { kind: 'house', fromMemory: false, words: 'for the benchmark' };

const base = { points: 2, critical: false, required: true, source } as const;

function sheetOf(id: string, title: string, grids: number): MethodSheet {
  const criteria: Criterion[] = Array.from({ length: 60 }, (_, i): Criterion => {
    const own = { ...base, id: `${id}/c${i}`, label: `Criterion ${i + 1}` };
    // The grids stand last, so that the same rows are tapped on both sheets.
    if (i < 60 - grids) return { ...own, kind: 'check' };
    const upper = { value: '0.1', source };
    return { ...own, kind: 'readings', unit: 'dB', band: { upper }, fibers: 12, directions: DIRECTIONS };
  });
  return {
    id,
    version: 1,
    title,
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
      criteria: criteria.slice(s * 5, s * 5 + 5),
    })),
  };
}

export const SIXTY = 'Sixty criteria';
export const SIXTY_WITH_GRIDS = 'Sixty criteria with three grids';
const SHEETS = [sheetOf('bench/sixty', SIXTY, 0), sheetOf('bench/sixty-grids', SIXTY_WITH_GRIDS, 3)];

/** Puts both sheets in force and in use in the demo's class. */
export async function sixtyCriteria(db: Database): Promise<void> {
  for (const sheet of SHEETS) {
    const id = randomUUID();
    await db('method_versions').insert({
      id,
      method_id: sheet.id,
      version: 1,
      state: 'in_force',
      title: sheet.title,
      sheet: JSON.stringify(checkSheet(sheet)),
      digest: sheetDigest(sheet),
    });
    for (const class_id of await db('classes').pluck('id')) {
      await db('class_methods').insert({ class_id, method_version_id: id, in_use: true });
    }
  }
}
