import { level } from '../build.ts';
import { CLEAVE_FACES } from '../common/cleave-steps.ts';

export const JOINTS = [
  level('clean', 'Clean, cores in line', 'pass', 6, 'joint-clean'),
  level('line', 'Faint line', 'marginal_pass', 4, 'joint-line'),
  level('offset', 'Offset', 'fail', 0, 'joint-offset'),
  level('bubble', 'Bubble', 'fail', 0, 'joint-bubble'),
  level('neck', 'Neck or bulge', 'fail', 0, 'joint-neck'),
];

/** The scale of cleaved faces, worth at most so many points. */
export const gapFaces = (most: number) =>
  CLEAVE_FACES.map((l) => ({ ...l, points: Math.min(most, l.points) }));
