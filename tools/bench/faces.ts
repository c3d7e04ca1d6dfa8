import { type GreyImage, faceCriteria, measureFace } from '@clear-mark/core';
import { FACE_STATES, randomFace, rngFrom } from '@clear-mark/sim';
import { type Measured, medianOf, sumOf, timed } from './measured.ts';
import { memoryBench } from './memory.ts';
import { openCv } from './opencv-face.ts';

const FACES = 8;
const ROUNDS = 5;
const PC = faceCriteria('sm-pc')!;

const drawn = (seed: number): GreyImage[] =>
  Array.from({ length: FACES }, (_, i) =>
    randomFace(rngFrom(seed + i), {}, FACE_STATES[i % FACE_STATES.length]!),
  );

/** Measuring and grading a face of 1280x960 against one plain pass over its pixels. */
export function benchFaces(): Measured {
  const faces = drawn(401);
  const rounds = Array.from({ length: ROUNDS }, () =>
    faces.map((face) => ({
      sum: Math.min(...Array.from({ length: 5 }, () => timed(() => sumOf(face)))),
      measure: timed(() => measureFace(face, PC)),
    })),
  ).slice(1);
  const all = rounds.flat();
  const measure = medianOf(all.map((r) => r.measure));
  const sum = medianOf(all.map((r) => r.sum));
  return {
    name: 'A face of 1280x960 measured and graded / one pass of summing its pixels',
    ratio: measure / sum,
    most: 100,
    unit: 'times',
    detail: `${FACES} faces; median ${measure.toFixed(0)} ms, longest ${Math.max(...all.map((r) => r.measure)).toFixed(0)} ms; one pass ${sum.toFixed(2)} ms`,
  };
}

/** The same against OpenCV's WebAssembly build: circle, background, threshold, components, line search. */
export async function benchFacesOpenCv(): Promise<Measured> {
  const faces = drawn(401);
  const cv = await openCv();
  const rounds = Array.from({ length: ROUNDS }, () =>
    faces.map((face) => ({
      cv: timed(() => cv.run(face)),
      measure: timed(() => measureFace(face, PC)),
    })),
  ).slice(1);
  const measure = medianOf(rounds.flat().map((r) => r.measure));
  const other = medianOf(rounds.flat().map((r) => r.cv));
  const seen = cv.run(faces[7]!);
  return {
    name: 'A face of 1280x960 measured / the steps by OpenCV’s WebAssembly build',
    ratio: measure / other,
    most: 1,
    unit: 'times',
    detail: `median ${measure.toFixed(0)} ms against ${other.toFixed(0)} ms (which finds ${seen.circles} circles, ${seen.spots} spots, ${seen.lines} lines and grades nothing)`,
  };
}

/** What measuring takes beyond the picture. */
export const benchFacesMemory = (): Promise<Measured> =>
  memoryBench(
    'face',
    'Memory of measuring a face, bytes a pixel / 16',
    16,
    randomFace(rngFrom(401), { width: 640, height: 480, umPerPx: 0.62 }),
    drawn(401)[0]!,
  );
