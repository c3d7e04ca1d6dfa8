import { level } from '../build.ts';

export const JOINTS = [
  level('clean', 'Clean, cores in line', 'pass', 6, 'joint-clean'),
  level('line', 'Faint line', 'marginal_pass', 4, 'joint-line'),
  level('offset', 'Offset', 'fail', 0, 'joint-offset'),
  level('bubble', 'Bubble', 'fail', 0, 'joint-bubble'),
  level('neck', 'Neck or bulge', 'fail', 0, 'joint-neck'),
];
