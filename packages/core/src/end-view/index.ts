export * from './camera-card.ts';
export * from './measure-end.ts';
export type { ColourImage } from './colour-image.ts';
export {
  type Camera,
  eyeOf,
  fitCamera,
  homographyOf,
  type Place3,
  project,
  type Sighting,
  taken,
  turnBy,
} from './camera.ts';
