import type { FaceSettings } from '../settings.ts';
import type { CoreFit } from './fit-core.ts';

/** What the core's size says about the fiber; `unlit` where no core is to be seen. */
export const CORE_CLASSES = ['single_mode', 'multimode_50', 'multimode_62', 'unlit'] as const;
export type CoreClass = (typeof CORE_CLASSES)[number];
export interface Core {
  readonly class: CoreClass;
  /** Radius at which its level has fallen to half, um; null where it is not seen. */
  readonly radiusUm: number | null;
}

/** What a measured core says of the fiber: its radius tells single-mode, 50 and 62.5 um. */
export function coreOf(core: CoreFit | null, umPerPx: number, settings: FaceSettings): Core {
  if (!core) return { class: 'unlit', radiusUm: null };
  const radiusUm = core.r * umPerPx;
  if (radiusUm < settings.core.betweenSingleAnd50Um) return { class: 'single_mode', radiusUm };
  return { class: radiusUm < settings.core.between50And62Um ? 'multimode_50' : 'multimode_62', radiusUm };
}
