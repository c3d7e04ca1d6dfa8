import { cardOfMethod, type ColourImage, type GreyImage, measureEnd } from '@clear-mark/core';
import { drawEnd, randomEndScene, rngFrom } from '@clear-mark/sim';
import { methodNamed } from '../card-command.ts';
import { cardPicture } from '../make-ends.ts';
import { type Measured, medianOf, sumOf, timed } from './measured.ts';
import { memoryBench } from './memory.ts';
import { loadOpenCv } from './opencv-face.ts';

const SIZE = { width: 4032, height: 3024 };
/** The first of them warm the machine up, of both sides. */
const ROUNDS = 11;
const WARMING = 6;
const sheet = methodNamed('round-cord')!;
const card = cardOfMethod(sheet);

const SMALL = { width: 1280, height: 960 };

async function colourOf(size: typeof SIZE): Promise<ColourImage> {
  const rng = rngFrom(903);
  return drawEnd(
    await cardPicture(card, sheet),
    randomEndScene(rng, { ...size, fault: 'none', tiltDeg: 15, rollDeg: 8 }),
    rng,
  );
}
async function drawn(): Promise<{ readonly colour: ColourImage; readonly grey: GreyImage }> {
  const colour = await colourOf(SIZE);
  const grey = new Uint8Array(SIZE.width * SIZE.height);
  for (let i = 0; i < grey.length; i++) grey[i] = colour.data[4 * i + 1]!;
  return { colour, grey: { ...SIZE, data: grey } };
}
function measuredIn(colour: ColourImage): number {
  const times = Array.from({ length: ROUNDS }, () =>
    timed(() => {
      const found = measureEnd(colour, card);
      if (!found.ok) throw new Error(found.reason);
    }),
  );
  return medianOf(times.slice(WARMING));
}

/** Measuring a photograph of 12 megapixels against one plain pass over its pixels. */
export async function benchEnds(): Promise<Measured> {
  const { colour, grey } = await drawn();
  const measure = measuredIn(colour);
  const sum = Math.min(...Array.from({ length: ROUNDS }, () => timed(() => sumOf(grey))));
  return {
    name: 'A prepared end of 12 megapixels measured / one pass of summing its pixels',
    ratio: measure / sum,
    most: 30,
    unit: 'times',
    detail: `median ${measure.toFixed(0)} ms; one pass ${sum.toFixed(1)} ms`,
  };
}

/** What measuring takes beyond the picture. */
export const benchEndsMemory = async (): Promise<Measured> =>
  memoryBench(
    'end',
    'Memory of measuring a prepared end, bytes a pixel / 24',
    24,
    await colourOf(SMALL),
    await colourOf(SIZE),
  );

/** The same against OpenCV's WebAssembly build: grey, threshold, contours, homography, the card seen from above, edges. */
export async function benchEndsOpenCv(): Promise<Measured> {
  const { colour } = await drawn();
  const { cv } = await loadOpenCv();
  const measure = measuredIn(colour);
  const other = medianOf(
    Array.from({ length: ROUNDS }, () => timed(() => plainSteps(cv, colour))).slice(WARMING),
  );
  return {
    name: 'A prepared end of 12 megapixels measured / the steps by OpenCV’s WebAssembly build',
    ratio: measure / other,
    most: 1,
    unit: 'times',
    detail: `median ${measure.toFixed(0)} ms against ${other.toFixed(0)} ms, which reads no mark and no layer`,
  };
}

/* eslint-disable @typescript-eslint/no-explicit-any -- the library comes without types that fit its build */
function plainSteps(cv: any, { width, height, data }: ColourImage): number {
  const whole = cv.matFromArray(height, width, cv.CV_8UC4, data);
  const held: any[] = [whole];
  const made = (kind: any = cv.Mat): any => {
    const mat = new kind();
    held.push(mat);
    return mat;
  };
  try {
    const grey = made();
    cv.cvtColor(whole, grey, cv.COLOR_RGBA2GRAY);
    const marked = made();
    cv.adaptiveThreshold(grey, marked, 255, cv.ADAPTIVE_THRESH_MEAN_C, cv.THRESH_BINARY_INV, 151, 25);
    const contours = made(cv.MatVector);
    const order = made();
    cv.findContours(marked, contours, order, cv.RETR_CCOMP, cv.CHAIN_APPROX_SIMPLE);
    const from = cv.matFromArray(4, 1, cv.CV_32FC2, [600, 500, 3400, 600, 3300, 2300, 500, 2200]);
    const to = cv.matFromArray(4, 1, cv.CV_32FC2, [0, 0, 2640, 0, 2640, 1540, 0, 1540]);
    held.push(from, to);
    const way = cv.getPerspectiveTransform(from, to);
    held.push(way);
    const flat = made();
    cv.warpPerspective(whole, flat, way, new cv.Size(2640, 1540), cv.INTER_LINEAR);
    const edges = made();
    cv.Canny(flat, edges, 40, 90);
    return edges.rows;
  } finally {
    for (const mat of held) mat.delete();
  }
}
