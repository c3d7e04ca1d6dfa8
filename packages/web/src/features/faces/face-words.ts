import type { CoreClass, FaceStep, FaceFault } from '@clear-mark/core';

import type { PictureProblem } from './engine/face-orders.ts';

export const STEP_WORDS: Readonly<Record<FaceStep | 'reading', string>> = {
  reading: 'Reading the picture',
  cladding: 'Looking for the cladding',
  light: 'Taking out the light',
  features: 'Looking for scratches and defects',
  contact_zone: 'Looking at the contact zone',
};
export const PROBLEM_WORDS: Readonly<Record<PictureProblem, (name: string) => string>> = {
  format: (name) => `${name} is neither a PNG nor a JPEG picture.`,
  cut: (name) => `${name} cannot be read: it is broken or cut short.`,
  broken: (name) => `${name} cannot be read: it is broken or cut short.`,
  animated: (name) => `${name} is an animated picture; take one of its pictures alone.`,
  too_many_pixels: (name) => `${name} has more pixels than are taken here, 40 million.`,
};
export const CORE_WORDS: Readonly<Record<CoreClass, string>> = {
  single_mode: 'single-mode core',
  multimode_50: '50 µm core',
  multimode_62: '62.5 µm core',
  unlit: 'core not to be seen',
};
export const KIND_WORDS: Readonly<Record<FaceFault, string>> = {
  scratch: 'scratch',
  pit: 'pit',
  edge_chip: 'chip at the edge',
  dust: 'loose dirt',
  lint: 'lint',
  film: 'film',
  crack: 'crack',
  fracture: 'broken under the surface',
};
