import { copySheet, type MethodSheet, readyProblems, sheetProblems } from '@clear-mark/core';
import { SHIPPED_METHODS } from '@clear-mark/methods';
import { classMatrix, scoreSheetDocument } from '@clear-mark/paper';
import { migrate, openDatabase, packsService, packText, sheetDigest } from '@clear-mark/server';
import { v7 } from 'uuid';
import { bytesOf } from '../pdf-for-tests.ts';
import { type Measured, medianOf } from './measured.ts';

const timed = async (act: () => unknown): Promise<number> => {
  const from = process.hrtime.bigint();
  await act();
  return Number(process.hrtime.bigint() - from) / 1e6;
};

const METHODS = 40;
const HEAD = { title: 'Bench', author: 'Bench', licence: 'none', language: 'en' };
const packOf = (round: number): { text: string; methods: MethodSheet[] } => {
  const methods = Array.from({ length: METHODS }, (_, i) => {
    const from = SHIPPED_METHODS[i % SHIPPED_METHODS.length]!;
    return copySheet(from, `own/bench-${round}-${i}`, from.title);
  });
  return { text: packText({ ...HEAD, methods }), methods };
};

/** A pack of 40 methods taken in, against JSON.parse of its text and one bare insert of the same rows. */
export async function benchPack(url: string): Promise<Measured> {
  const db = openDatabase(url, 2);
  await migrate(db);
  const packs = packsService(db);
  const rounds: { taken: number; bare: number }[] = [];
  for (let round = 0; round < 14; round++) {
    const { text, methods } = packOf(round);
    const rows = methods.map((sheet) => ({
      id: v7(),
      method_id: `${sheet.id}-bare`,
      version: 1,
      state: 'in_force',
      title: sheet.title,
      sheet: JSON.stringify(sheet),
      digest: sheetDigest(sheet),
    }));
    const bare = await timed(async () => {
      JSON.parse(text);
      await db('method_versions').insert(rows);
    });
    rounds.push({ bare, taken: await timed(() => packs.take(JSON.parse(text), { id: v7() }, new Date())) });
  }
  await db.destroy();
  const some = rounds.slice(4);
  const taken = medianOf(some.map((r) => r.taken));
  const bare = medianOf(some.map((r) => r.bare));
  return {
    name: `a pack of ${METHODS} methods taken in / JSON.parse and one bare insert`,
    ratio: medianOf(some.map((r) => r.taken / r.bare)),
    most: 3,
    unit: 'times',
    detail: `median ${taken.toFixed(0)} ms against ${bare.toFixed(0)} ms`,
  };
}

const MOST_CHECK_MS = 8;

/** What is checked at each letter that is typed into a draft, on the longest shipped sheet, against 8 ms. */
export async function benchDraftCheck(): Promise<Measured> {
  const size = (sheet: MethodSheet): number => sheet.steps.flatMap((s) => s.criteria).length;
  const longest = [...SHIPPED_METHODS].sort((a, b) => size(b) - size(a))[0]!;
  const times: number[] = [];
  for (let i = 0; i < 300; i++) {
    const [first, ...others] = longest.steps;
    const edited = { ...longest, steps: [{ ...first!, title: `${first!.title} ${i}` }, ...others] };
    times.push(
      await timed(() => {
        readyProblems(edited);
        sheetProblems(edited);
      }),
    );
  }
  const ms = medianOf(times.slice(100));
  return {
    name: 'the check of an edited draft / 8 ms',
    ratio: ms / MOST_CHECK_MS,
    most: 1,
    unit: 'times',
    detail: `${size(longest)} criteria, median ${ms.toFixed(2)} ms, longest ${Math.max(...times.slice(100)).toFixed(2)} ms`,
  };
}

/** A score sheet of 60 trainees as a PDF, against the same texts and boxes handed to the package as one plain table. */
export async function benchScoreSheet(): Promise<Measured> {
  const [sheet] = SHIPPED_METHODS;
  const trainees = Array.from({ length: 60 }, (_, i) => `Trainee number ${i + 1}`);
  const plain = (): Record<string, unknown> => ({
    defaultStyle: { font: 'Latin', fontSize: 8.5 },
    pageSize: 'A4',
    pageOrientation: 'landscape',
    content: classMatrix(sheet!, trainees).tables.map((table, i) => ({
      ...(i > 0 ? { pageBreak: 'before' } : {}),
      table: {
        widths: table.widthsMm.map((w) => (w === '*' ? '*' : (w * 72) / 25.4)),
        body: [
          [...table.heads],
          ...table.rows.map((row) =>
            'across' in row
              ? [{ text: row.across, colSpan: table.heads.length }, ...table.heads.slice(1).map(() => '')]
              : row.map((cell) =>
                  'words' in cell ? cell.words : { canvas: [{ type: 'rect', x: 0, y: 0, w: 25, h: 13 }] },
                ),
          ),
        ],
      },
    })),
  });
  const rounds: { ours: number; theirs: number }[] = [];
  for (let i = 0; i < 8; i++) {
    const theirs = await timed(() => bytesOf(plain()));
    rounds.push({
      theirs,
      ours: await timed(() => bytesOf(scoreSheetDocument(classMatrix(sheet!, trainees), 'A4'))),
    });
  }
  const some = rounds.slice(2);
  return {
    name: 'a score sheet of 60 trainees as PDF / the package with the same texts and boxes',
    ratio: medianOf(some.map((r) => r.ours / r.theirs)),
    most: 2,
    unit: 'times',
    detail: `median ${medianOf(some.map((r) => r.ours)).toFixed(0)} ms against ${medianOf(some.map((r) => r.theirs)).toFixed(0)} ms`,
  };
}
