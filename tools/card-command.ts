import { writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { type CameraCard, cardOfMethod, DomainError, type MethodSheet } from '@clear-mark/core';
import { SHIPPED_METHODS } from '@clear-mark/methods';
import { cameraCardShapes } from '@clear-mark/paper';
import { errorWords } from '@clear-mark/words';
import { cardToFile } from './card-file.ts';
import { shapesPicture } from './shapes-picture.ts';

const USAGE = './clear-mark card METHOD --png FILE --json FILE [--px-per-mm 20]';
const MOST_PX_PER_MM = 80;

/** Writes the strip card of a shipped method for the camera: its picture, cut to its size, and the places of its marks. Exit code 2 for a wrong call. */
export async function runCard(args: readonly string[]): Promise<number> {
  const read = readCall(args);
  if (typeof read === 'string') {
    console.error(`${read}\n${USAGE}`);
    return 2;
  }
  const { sheet, card, png, json, pxPerMm } = read;
  const picture = await shapesPicture(cameraCardShapes(card, sheet), card.widthMm, card.heightMm, pxPerMm);
  writeFileSync(png, picture);
  writeFileSync(json, `${JSON.stringify(cardToFile(card, sheet.id, sheet.version), null, 2)}\n`);
  console.log(`${sheet.title}, version ${sheet.version}: ${card.widthMm} × ${card.heightMm} mm`);
  return 0;
}

/** A method by its id, or by what follows the stroke in it. */
export const methodNamed = (name: string): MethodSheet | undefined =>
  SHIPPED_METHODS.find((m) => m.id === name) ?? SHIPPED_METHODS.find((m) => m.id.split('/').at(-1) === name);

interface CardCall {
  readonly sheet: MethodSheet;
  readonly card: CameraCard;
  readonly png: string;
  readonly json: string;
  readonly pxPerMm: number;
}
function readCall(args: readonly string[]): CardCall | string {
  let parsed;
  try {
    parsed = parseArgs({
      args: [...args],
      allowPositionals: true,
      options: {
        png: { type: 'string' },
        json: { type: 'string' },
        'px-per-mm': { type: 'string', default: '20' },
      },
    });
  } catch (error) {
    return (error as Error).message;
  }
  const [name, ...more] = parsed.positionals;
  const { png, json } = parsed.values;
  const pxPerMm = Number(parsed.values['px-per-mm']);
  const names = SHIPPED_METHODS.map((m) => m.id.split('/').at(-1)).join(', ');
  if (name === undefined || more.length > 0) return `Give one method: ${names}.`;
  const sheet = methodNamed(name);
  if (!sheet) return `There is no method ${name}. There are: ${names}.`;
  if (png === undefined || json === undefined)
    return 'Say where picture and places go with --png and --json.';
  if (!(pxPerMm >= 4 && pxPerMm <= MOST_PX_PER_MM))
    return `--px-per-mm is a number from 4 to ${MOST_PX_PER_MM}.`;
  try {
    return { sheet, card: cardOfMethod(sheet), png, json, pxPerMm };
  } catch (error) {
    if (error instanceof DomainError) return errorWords(error.code, error.params);
    throw error;
  }
}
