import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import Papa from 'papaparse';
import { z } from 'zod';
import type { CameraCard } from '@clear-mark/core';
import { CardFile, cardOfFile } from './card-file.ts';
import type { MeasuredFile, MeasuredKind, MeasureOrder } from './measure-file.ts';
import { onAllCores } from './on-all-cores.ts';

/**
 * Measures every PNG and JPEG of a folder (or of its folder `images`) on all cores: one JSON file of all, and a CSV beside it. What may be known of
 * a picture beforehand is read from manifest.json. Exit code 2 for a wrong call.
 */
export async function runMeasure(kind: MeasuredKind, args: readonly string[]): Promise<number> {
  const read = readCall(kind, args);
  if (typeof read === 'string') {
    const card = kind === 'end' ? ' --card FILE.json' : '';
    console.error(`${read}\n./clear-mark measure-${kind} FOLDER${card} --out FILE.json`);
    return 2;
  }
  const { folder, out, told, card } = read;
  const files = picturesIn(folder);
  const measured = await onAllCores<MeasuredFile>(
    './measure-worker.ts',
    files.map((name): MeasureOrder => {
      const own = told.pictures.find((p) => path.basename(p.file) === name);
      return {
        kind,
        file: path.join(folder, name),
        views: own?.views,
        ofScreen: own?.of_screen,
        modeFieldUm: told.mode_field_um_1310,
        card,
      };
    }),
  );
  measured.sort((a, b) => (a.file < b.file ? -1 : 1));
  writeFileSync(out, `${JSON.stringify({ pictures: measured }, null, 2)}\n`);
  const rows = measured.flatMap((one) => rowsOf(kind, one));
  writeFileSync(besides(out), `${Papa.unparse(rows, { newline: '\r\n', escapeFormulae: true })}\r\n`);
  const count = measured.filter((m) => m.ok).length;
  console.log(`${measured.length} pictures: ${count} measured, ${measured.length - count} refused`);
  return 0;
}

const picturesIn = (folder: string): string[] =>
  readdirSync(folder).filter((name) => /\.(png|jpe?g)$/i.test(name));

const Manifest = z.object({
  mode_field_um_1310: z.number().positive().optional(),
  pictures: z.array(
    z.object({
      file: z.string(),
      views: z.union([z.literal(1), z.literal(2)]).optional(),
      of_screen: z.boolean().optional(),
    }),
  ),
});
type Manifest = z.infer<typeof Manifest>;

interface MeasureCall {
  readonly folder: string;
  readonly out: string;
  readonly told: Manifest;
  readonly card?: CameraCard;
}
function readCall(kind: MeasuredKind, args: readonly string[]): MeasureCall | string {
  let parsed;
  try {
    parsed = parseArgs({
      args: [...args],
      allowPositionals: true,
      options: {
        out: { type: 'string' },
        ...(kind === 'end' ? { card: { type: 'string' as const } } : {}),
      },
    });
  } catch (error) {
    return (error as Error).message;
  }
  const [given, ...more] = parsed.positionals;
  const { out } = parsed.values;
  if (given === undefined || more.length > 0) return 'Give one folder of pictures.';
  if (out === undefined) return 'Say where the results go with --out.';
  const isFolder = (at: string): boolean => statSync(at, { throwIfNoEntry: false })?.isDirectory() ?? false;
  if (!isFolder(given)) return `${given} is not a folder.`;
  const within = path.join(given, 'images');
  const folder = picturesIn(given).length === 0 && isFolder(within) ? within : given;
  if (kind === 'end') {
    const card = readCard((parsed.values as { card?: string }).card);
    return typeof card === 'string' ? card : { folder, out, told: { pictures: [] }, card };
  }
  const manifest = [folder, path.dirname(path.resolve(folder))]
    .map((at) => path.join(at, 'manifest.json'))
    .find((file) => existsSync(file));
  if (manifest === undefined) return { folder, out, told: { pictures: [] } };
  try {
    return { folder, out, told: Manifest.parse(JSON.parse(readFileSync(manifest, 'utf8'))) };
  } catch {
    return `${manifest} is no manifest of pictures.`;
  }
}

function readCard(file: string | undefined): CameraCard | string {
  if (file === undefined) return 'Say which card the ends lie on with --card.';
  try {
    return cardOfFile(CardFile.parse(JSON.parse(readFileSync(file, 'utf8'))));
  } catch {
    return `${file} is no card as \`./clear-mark card\` writes it.`;
  }
}

const besides = (out: string): string => `${out.replace(/\.json$/i, '')}.csv`;

const COLUMNS: Readonly<Record<MeasuredKind, readonly (keyof MeasuredFile)[]>> = {
  cleave: ['file', 'ok', 'reason', 'scale_um_per_px'],
  splice: [
    'file',
    'ok',
    'reason',
    'scale_um_per_px',
    'class',
    'offset_um',
    'u_offset_um',
    'core_offset_um',
    'u_core_offset_um',
    'angle_deg',
    'u_angle_deg',
    'diameter_change_um',
    'u_diameter_change_um',
    'bubble_um',
    'u_bubble_um',
    'loss_db',
    'u_loss_db',
  ],
  end: [
    'file',
    'ok',
    'reason',
    'jacket_mm',
    'u_jacket_mm',
    'buffer_mm',
    'u_buffer_mm',
    'glass_mm',
    'u_glass_mm',
    'jacket_diameter_mm',
    'u_jacket_diameter_mm',
    'print_scale',
  ],
};
/** A line a picture, for cleaves a line a fiber; a picture that was refused is a line with its reason. */
function rowsOf(kind: MeasuredKind, { fibers, ...picture }: MeasuredFile): Record<string, unknown>[] {
  const head = Object.fromEntries(COLUMNS[kind].map((c) => [c, (picture as MeasuredFile)[c] ?? '']));
  if (kind !== 'cleave') return [head];
  const none = { side: '', angle_deg: '', u_deg: '', class: '', dirty: '' };
  return (fibers ?? []).length === 0 ? [{ ...head, ...none }] : fibers!.map((f) => ({ ...head, ...f }));
}
