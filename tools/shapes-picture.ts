import { readFileSync } from 'node:fs';
import { type LetterFile, runsOf, type Shape } from '@clear-mark/paper';
import { fontFile } from '@clear-mark/server';
import { create } from 'fontkit';
import sharp from 'sharp';

const MM_PER_PT = 25.4 / 72;
/** From the top of a line of letters down to their feet, in sizes. */
const ASCENT = 0.92;

const grey = (level: number): string =>
  `rgb(${Array<number>(3)
    .fill(Math.round(255 * level))
    .join()})`;

/** Shapes of paper as a PNG in grey, letters drawn by their outlines: no typeface of the machine is asked for. */
export async function shapesPicture(
  shapes: readonly Shape[],
  widthMm: number,
  heightMm: number,
  pxPerMm: number,
): Promise<Buffer> {
  const width = Math.round(widthMm * pxPerMm);
  const height = Math.round(heightMm * pxPerMm);
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${widthMm} ${heightMm}" preserveAspectRatio="none"><rect width="${widthMm}" height="${heightMm}" fill="white"/>${shapes.map(drawn).join('')}</svg>`;
  return sharp(Buffer.from(svg)).flatten({ background: 'white' }).greyscale().png().toBuffer();
}

function drawn(shape: Shape): string {
  const ink = ({ fill, strokeMm }: { fill?: number; strokeMm?: number }): string =>
    `fill="${fill === undefined ? 'none' : grey(fill)}"${strokeMm ? ` stroke="black" stroke-width="${strokeMm}"` : ''}`;
  switch (shape.kind) {
    case 'line':
      return `<line x1="${shape.from[0]}" y1="${shape.from[1]}" x2="${shape.to[0]}" y2="${shape.to[1]}" stroke="black" stroke-width="${shape.widthMm}"/>`;
    case 'rect':
      return `<rect x="${shape.at[0]}" y="${shape.at[1]}" width="${shape.widthMm}" height="${shape.heightMm}" ${ink(shape)}/>`;
    case 'circle':
      return `<circle cx="${shape.at[0]}" cy="${shape.at[1]}" r="${shape.diameterMm / 2}" ${ink(shape)}/>`;
    case 'polygon':
      return `<polygon points="${shape.points.map((p) => p.join()).join(' ')}" ${ink(shape)}/>`;
    case 'text':
      return lettersOf(shape);
    case 'code':
      // A card for the camera has none; its own squares say what it is.
      return '';
    default: {
      const never: never = shape;
      return never;
    }
  }
}

const faces = new Map<string, ReturnType<typeof create>>();
function faceOf(file: LetterFile, isBold: boolean): ReturnType<typeof create> {
  const path = fontFile(file, isBold ? 700 : 400);
  const known = faces.get(path) ?? create(readFileSync(path));
  faces.set(path, known);
  return known;
}

function lettersOf({ at, text, sizePt, bold, align, widthMm }: Extract<Shape, { kind: 'text' }>): string {
  const size = sizePt * MM_PER_PT;
  const pieces: string[] = [];
  let x = 0;
  for (const { text: part, file } of runsOf(text)) {
    const face = faceOf(file, bold ?? false);
    const scale = size / face.unitsPerEm;
    const run = face.layout(part);
    run.glyphs.forEach((glyph, i) => {
      pieces.push(
        `<path transform="translate(${x} 0) scale(${scale} ${-scale})" d="${glyph.path.toSVG()}"/>`,
      );
      x += run.positions[i]!.xAdvance * scale;
    });
  }
  const room = align === 'middle' ? (widthMm - x) / 2 : align === 'right' ? widthMm - x : 0;
  return `<g transform="translate(${at[0] + room} ${at[1] + ASCENT * size})">${pieces.join('')}</g>`;
}
