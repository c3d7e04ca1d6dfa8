import { readdirSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import Papa from 'papaparse';
import type { MeasuredFile, MeasureOrder } from './measure-file.ts';
import { onAllCores } from './on-all-cores.ts';

/** Measures every PNG and JPEG of a folder on all cores: one JSON file of all, and a CSV beside it. Exit code 2 for a wrong call. */
export async function runMeasure(kind: MeasureOrder['kind'], args: readonly string[]): Promise<number> {
  const read = readCall(args);
  if (typeof read === 'string') {
    console.error(`${read}\n./clear-mark measure-${kind} FOLDER --out FILE.json`);
    return 2;
  }
  const { folder, out } = read;
  const files = readdirSync(folder).filter((name) => /\.(png|jpe?g)$/i.test(name));
  const measured = await onAllCores<MeasuredFile>(
    './measure-worker.ts',
    files.map((name): MeasureOrder => ({ kind, file: path.join(folder, name) })),
  );
  measured.sort((a, b) => (a.file < b.file ? -1 : 1));
  writeFileSync(out, `${JSON.stringify({ pictures: measured }, null, 2)}\n`);
  writeFileSync(
    besides(out),
    `${Papa.unparse(rowsOf(measured), { newline: '\r\n', escapeFormulae: true })}\r\n`,
  );
  const count = measured.filter((m) => m.ok).length;
  console.log(`${measured.length} pictures: ${count} measured, ${measured.length - count} refused`);
  return 0;
}

function readCall(args: readonly string[]): { folder: string; out: string } | string {
  let parsed;
  try {
    parsed = parseArgs({ args: [...args], allowPositionals: true, options: { out: { type: 'string' } } });
  } catch (error) {
    return (error as Error).message;
  }
  const [folder, ...more] = parsed.positionals;
  const { out } = parsed.values;
  if (folder === undefined || more.length > 0) return 'Give one folder of pictures.';
  if (out === undefined) return 'Say where the results go with --out.';
  if (!statSync(folder, { throwIfNoEntry: false })?.isDirectory()) return `${folder} is not a folder.`;
  return { folder, out };
}

const besides = (out: string): string => `${out.replace(/\.json$/i, '')}.csv`;

/** A line a fiber; a picture that was refused is a line with its reason. */
const rowsOf = (measured: readonly MeasuredFile[]): Record<string, unknown>[] =>
  measured.flatMap(({ fibers, ...picture }): Record<string, unknown>[] => {
    const head = {
      file: picture.file,
      ok: picture.ok,
      reason: picture.reason ?? '',
      scale_um_per_px: picture.scale_um_per_px ?? '',
    };
    const none = { side: '', angle_deg: '', u_deg: '', class: '', dirty: '' };
    return (fibers ?? []).length === 0 ? [{ ...head, ...none }] : fibers!.map((f) => ({ ...head, ...f }));
  });
