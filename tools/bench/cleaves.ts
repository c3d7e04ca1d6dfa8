import { type GreyImage, measureCleave } from '@clear-mark/core';
import { drawCleave, randomCleaveScene, rngFrom } from '@clear-mark/sim';
import { type Measured, medianOf, sumOf, timed } from './measured.ts';
import { memoryBench } from './memory.ts';
import { loadOpenCv } from './opencv-face.ts';

const PICTURES = 8;
const ROUNDS = 6;
const SIZE = { width: 1024, height: 768 };

const drawn = (): GreyImage[] =>
  Array.from({ length: PICTURES }, (_, i) => {
    const rng = rngFrom(901 + i);
    return drawCleave(randomCleaveScene(rng, SIZE), rng);
  });

/** Measuring a cleaved end of 1024x768 against one plain pass over its pixels. */
export function benchCleaves(): Measured {
  const pictures = drawn();
  const rounds = Array.from({ length: ROUNDS }, () =>
    pictures.map((picture) => ({
      sum: Math.min(...Array.from({ length: 5 }, () => timed(() => sumOf(picture)))),
      measure: timed(() => measureCleave(picture)),
    })),
  ).slice(2);
  const measure = medianOf(rounds.flat().map((r) => r.measure));
  const sum = medianOf(rounds.flat().map((r) => r.sum));
  return {
    name: 'A cleave of 1024x768 measured / one pass of summing its pixels',
    ratio: measure / sum,
    most: 20,
    unit: 'times',
    detail: `${PICTURES} pictures; median ${measure.toFixed(0)} ms; one pass ${sum.toFixed(2)} ms`,
  };
}

/** What measuring takes beyond the picture. */
export const benchCleavesMemory = (): Promise<Measured> => {
  const rng = rngFrom(907);
  const small = drawCleave(randomCleaveScene(rng, { width: 512, height: 384 }), rng);
  const large = drawCleave(randomCleaveScene(rng, { width: 2048, height: 1536 }), rng);
  return memoryBench('cleave', 'Memory of measuring a cleave, bytes a pixel / 24', 24, small, large);
};

/** The page looks at a frame of a live camera so often, ms. */
const LOOK_EVERY_MS = 400;

/** A frame of 720 lines measured, against the time that the page has until the next one. */
export function benchCleavesLive(): Measured {
  const frames = Array.from({ length: PICTURES }, (_, i) => {
    const rng = rngFrom(931 + i);
    return drawCleave(randomCleaveScene(rng, { width: 1280, height: 720 }), rng);
  });
  const times = Array.from({ length: ROUNDS }, () =>
    frames.map((frame) => timed(() => measureCleave(frame))),
  );
  const measure = medianOf(times.slice(2).flat());
  return {
    name: 'A cleave in a live frame of 1280x720 measured / the time between two looks',
    ratio: measure / LOOK_EVERY_MS,
    most: 1,
    unit: 'times',
    detail: `median ${measure.toFixed(0)} ms, ${(1000 / measure).toFixed(0)} frames a second`,
  };
}

/** The same against OpenCV's WebAssembly build: background, threshold, contours, edges, lines. */
export async function benchCleavesOpenCv(): Promise<Measured> {
  const pictures = drawn();
  const { cv } = await loadOpenCv();
  const rounds = Array.from({ length: ROUNDS }, () =>
    pictures.map((picture) => ({
      cv: timed(() => plainSteps(cv, picture)),
      measure: timed(() => measureCleave(picture)),
    })),
  ).slice(2);
  const measure = medianOf(rounds.flat().map((r) => r.measure));
  const other = medianOf(rounds.flat().map((r) => r.cv));
  return {
    name: 'A cleave of 1024x768 measured / the steps by OpenCV’s WebAssembly build',
    ratio: measure / other,
    most: 1,
    unit: 'times',
    detail: `median ${measure.toFixed(0)} ms against ${other.toFixed(0)} ms, which finds lines and classes nothing`,
  };
}

/* eslint-disable @typescript-eslint/no-explicit-any -- the library comes without types that fit its build */
function plainSteps(cv: any, { width, height, data }: GreyImage): number {
  const grey = cv.matFromArray(height, width, cv.CV_8UC1, data);
  const held: any[] = [grey];
  const made = (kind: any = cv.Mat): any => {
    const mat = new kind();
    held.push(mat);
    return mat;
  };
  try {
    const soft = made();
    cv.GaussianBlur(grey, soft, new cv.Size(5, 5), 1.2);
    const behind = made();
    cv.medianBlur(grey, behind, 61);
    const off = made();
    cv.absdiff(soft, behind, off);
    const marked = made();
    cv.threshold(off, marked, 0, 255, cv.THRESH_BINARY + cv.THRESH_OTSU);
    const contours = made(cv.MatVector);
    const order = made();
    cv.findContours(marked, contours, order, cv.RETR_EXTERNAL, cv.CHAIN_APPROX_NONE);
    const edges = made();
    cv.Canny(soft, edges, 40, 90);
    const lines = made();
    cv.HoughLinesP(edges, lines, 1, Math.PI / 720, 60, 40, 6);
    return lines.rows;
  } finally {
    for (const mat of held) mat.delete();
  }
}
