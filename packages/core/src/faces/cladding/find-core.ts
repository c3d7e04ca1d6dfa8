import type { FaceSettings } from '../settings.ts';
/** What the core's size says about the fiber; `unlit` where no core is to be seen. */
export const CORE_CLASSES = ['single_mode', 'multimode_50', 'multimode_62', 'unlit'] as const;
export type CoreClass = (typeof CORE_CLASSES)[number];
export interface Core {
  readonly class: CoreClass;
  /** Radius at which its level has fallen to a fifth, um; null where it is not seen. */
  readonly radiusUm: number | null;
}

/**
 * The core from the level at each half pixel of distance from the centre: a level of its own from 8 to 18 um out belongs to
 * a multimode core, whose radius tells 50 from 62.5 um; one in the middle alone to a single-mode core. A difference of
 * less than 1.5 levels is none.
 */
export function findCore(rings: Float32Array, umPerPx: number, settings: FaceSettings): Core {
  const mean = (from: number, to: number): number => {
    const [a, b] = [from, to].map((um) => Math.round((2 * um) / umPerPx));
    const part = rings.slice(a, Math.max(a! + 1, b!));
    return part.length === 0 ? 0 : part.reduce((sum, v) => sum + v, 0) / part.length;
  };
  const ground = mean(36, 52);
  const wide = mean(8, 18) - ground;
  const narrow = mean(0, 2.5) - ground;
  if (Math.abs(wide) >= settings.core.leastStep) {
    const radiusUm = reachOf(rings, ground, wide, umPerPx, 34);
    return { class: radiusUm < settings.core.between50And62Um ? 'multimode_50' : 'multimode_62', radiusUm };
  }
  if (Math.abs(narrow) >= 2 * settings.core.leastStep) {
    return { class: 'single_mode', radiusUm: reachOf(rings, ground, narrow, umPerPx, 8) };
  }
  return { class: 'unlit', radiusUm: null };
}

/** The farthest place within reach at which the level still differs by a fifth of the step. */
function reachOf(rings: Float32Array, ground: number, step: number, umPerPx: number, mostUm: number): number {
  const sign = Math.sign(step);
  for (let bin = Math.min(rings.length - 1, Math.round((2 * mostUm) / umPerPx)); bin > 0; bin--) {
    if (sign * (rings[bin]! - ground) > 0.2 * Math.abs(step)) return ((bin + 0.5) / 2) * umPerPx;
  }
  return 0;
}
