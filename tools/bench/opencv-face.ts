import type { GreyImage } from '@clear-mark/core';

/* eslint-disable @typescript-eslint/no-explicit-any -- the library comes without types that fit its build */

/** The same steps by a general-purpose library: circle, background, threshold, components, line search. */
export interface OpenCvSteps {
  readonly run: (image: GreyImage) => { circles: number; spots: number; lines: number };
}

/** Loads the WebAssembly build and waits until it runs. */
export async function loadOpenCv(): Promise<any> {
  const module: any = await import('@techstark/opencv-js');
  const cv: any = module.default ?? module;
  if (!cv.Mat) await new Promise<void>((done) => (cv.onRuntimeInitialized = () => done()));
  return { cv };
}

export async function openCv(): Promise<OpenCvSteps> {
  const { cv } = await loadOpenCv();
  return { run: (image) => steps(cv, image) };
}

function steps(cv: any, { width, height, data }: GreyImage): ReturnType<OpenCvSteps['run']> {
  const grey = cv.matFromArray(height, width, cv.CV_8UC1, data);
  const held: any[] = [grey];
  const made = (): any => {
    const mat = new cv.Mat();
    held.push(mat);
    return mat;
  };
  try {
    const soft = made();
    cv.GaussianBlur(grey, soft, new cv.Size(5, 5), 1.2);
    const half = made();
    cv.resize(soft, half, new cv.Size(width / 2, height / 2), 0, 0, cv.INTER_AREA);
    const circles = made();
    const short = Math.min(width, height) / 2;
    cv.HoughCircles(half, circles, cv.HOUGH_GRADIENT, 1, short / 2, 80, 30, short * 0.15, short * 0.5);
    const background = made();
    cv.medianBlur(grey, background, 41);
    const off = made();
    cv.absdiff(soft, background, off);
    const marked = made();
    cv.threshold(off, marked, 9, 255, cv.THRESH_BINARY);
    const labels = made();
    const stats = made();
    const centroids = made();
    const spots: number = cv.connectedComponentsWithStats(marked, labels, stats, centroids, 8);
    const lines = made();
    cv.HoughLinesP(marked, lines, 1, Math.PI / 180, 60, 40, 6);
    return { circles: circles.cols, spots, lines: lines.rows };
  } finally {
    for (const mat of held) mat.delete();
  }
}
