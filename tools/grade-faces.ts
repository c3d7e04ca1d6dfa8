import { mkdirSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { FACE_CRITERIA, faceCriteria } from '@clear-mark/core';
import type { GradedFile } from './grade-file.ts';
import { onAllCores } from './on-all-cores.ts';

const USAGE = `./clear-mark grade-faces FOLDER --criteria ${FACE_CRITERIA.map((c) => c.id).join('|')} --out FOLDER`;

/**
 * Grades every PNG and JPEG of a folder, one JSON file a picture and a summary as CSV, on all cores. Exit code 0 when the
 * folder could be read, whatever the pictures are; 2 for a wrong call.
 */
export async function runGradeFaces(args: readonly string[]): Promise<number> {
  const read = readCall(args);
  if (typeof read === 'string') {
    console.error(`${read}\n${USAGE}`);
    return 2;
  }
  const { folder, criteria, out } = read;
  const files = readdirSync(folder)
    .filter((name) => /\.(png|jpe?g)$/i.test(name))
    .sort();
  mkdirSync(out, { recursive: true });
  const graded = await gradeAll(folder, files, criteria, out);
  writeFileSync(path.join(out, 'summary.csv'), summary(graded));
  const count = (of: (g: GradedFile) => boolean): number => graded.filter(of).length;
  console.log(
    `${graded.length} pictures: ${count((g) => g.verdict === 'pass')} pass, ${count((g) => g.verdict === 'fail')} fail, ${count((g) => !g.ok)} not graded`,
  );
  return 0;
}

function readCall(args: readonly string[]): { folder: string; criteria: string; out: string } | string {
  let parsed;
  try {
    parsed = parseArgs({
      args: [...args],
      allowPositionals: true,
      options: { criteria: { type: 'string' }, out: { type: 'string' } },
    });
  } catch (error) {
    return (error as Error).message;
  }
  const [folder, ...more] = parsed.positionals;
  const { criteria, out } = parsed.values;
  if (folder === undefined || more.length > 0) return 'Give one folder of pictures.';
  if (criteria === undefined || !faceCriteria(criteria)) return `There are no criteria ${criteria ?? ''}.`;
  if (out === undefined) return 'Say where the results go with --out.';
  if (!statSync(folder, { throwIfNoEntry: false })?.isDirectory()) return `${folder} is not a folder.`;
  return { folder, criteria, out };
}

/** A JSON file each, in the order of their names. */
export async function gradeAll(
  folder: string,
  files: readonly string[],
  criteria: string,
  out: string,
): Promise<GradedFile[]> {
  const orders = files.map((name) => ({ file: path.join(folder, name), criteria }));
  const graded = await onAllCores<GradedFile>('./grade-worker.ts', orders, (result) =>
    writeFileSync(path.join(out, `${result.file}.json`), `${JSON.stringify(result, null, 2)}\n`),
  );
  return graded.sort((a, b) => (a.file < b.file ? -1 : 1));
}

const cell = (value: string | number | undefined): string => {
  const text = String(value ?? '');
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
};

function summary(graded: readonly GradedFile[]): string {
  const head = [
    'file',
    'ok',
    'reason',
    'verdict',
    'pass_probability',
    'scale_um_per_px',
    'scratches',
    'defects',
  ];
  const rows = graded.map((g) => [
    g.file,
    String(g.ok),
    g.reason,
    g.verdict,
    g.pass_probability,
    g.scale_um_per_px,
    g.features?.filter((f) => f.kind === 'scratch').length,
    g.features?.filter((f) => f.kind === 'defect').length,
  ]);
  return [head, ...rows].map((row) => `${row.map(cell).join(',')}\r\n`).join('');
}
