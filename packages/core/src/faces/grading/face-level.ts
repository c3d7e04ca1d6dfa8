import type { Call } from '../../scoring/index.ts';
import type { FaceFault } from './faults.ts';

/** The levels of an end face by eye, by the ids that they have on a sheet. */
export type FaceLevel = 'clean' | 'marks-outside' | 'dirty' | 'damaged' | 'broken';

const BROKEN: readonly FaceFault[] = ['fracture', 'edge_chip'];
const LOOSE: readonly FaceFault[] = ['dust', 'lint', 'film'];

/**
 * The level of a graded face on a sheet's scale: what the zone table lets pass is clean, or marked where marks are named;
 * what fails is broken by a fracture or a chip, dirty where all that is named could be cleaned away, else damaged. Source of
 * the scale: house. Example: a fail for dust alone is dirty.
 */
export function levelOfFace(verdict: Call, faults: readonly FaceFault[]): FaceLevel {
  if (verdict === 'pass') return faults.length === 0 ? 'clean' : 'marks-outside';
  if (faults.some((f) => BROKEN.includes(f))) return 'broken';
  return faults.length > 0 && faults.every((f) => LOOSE.includes(f)) ? 'dirty' : 'damaged';
}
