import { MORE_FAMILIES } from '../../packages/sim/src/more-faces-for-tests.ts';

/** Ways to draw faces: the shipped one, and those for tests alone. */
export const FACE_SETS = ['ours', 'other', ...MORE_FAMILIES] as const;
export type FaceSet = (typeof FACE_SETS)[number];
