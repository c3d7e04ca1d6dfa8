import type { CoreClass, FaceStep, FaceFault } from '@clear-mark/core';

export const STEP_WORDS: Readonly<Record<FaceStep | 'reading', string>> = {
  reading: 'Reading the picture',
  cladding: 'Looking for the cladding',
  light: 'Taking out the light',
  features: 'Looking for scratches and defects',
  contact_zone: 'Looking at the contact zone',
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
