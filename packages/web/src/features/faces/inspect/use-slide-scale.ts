import { shallowRef } from 'vue';
import { z } from 'zod';
import { deviceSettings } from '../../../storage/device-settings.ts';

const Kept = z.object({
  umPerPx: z.number().positive(),
  /** Expanded uncertainty (k = 2) as a share. */
  uncertainty: z.number().min(0),
  takenAt: z.string(),
});
export type SlideScale = z.infer<typeof Kept>;

const SETTING = 'face-slide-scale';
const scale = shallowRef<SlideScale | null>(read());

function read(): SlideScale | null {
  const text = deviceSettings.read(SETTING);
  if (text === null || text === '') return null;
  try {
    return Kept.parse(JSON.parse(text));
  } catch {
    return null;
  }
}

/** The scale that a calibration slide gave for the microscope of this device, until it is taken away. */
export function useSlideScale() {
  function keep(next: SlideScale | null): void {
    scale.value = next;
    deviceSettings.write(SETTING, next === null ? '' : JSON.stringify(next));
  }
  return { scale, keep };
}

/** Slide and cladding that differ by more than this are of another zoom, objective or fiber. House. */
const DIFFERS = 0.02;

/** How much more a slide's scale is than a cladding's, as a share, where that tells something; null where it does not. */
export function differenceFrom(slide: SlideScale | null, umPerPx: number): number | null {
  if (slide === null) return null;
  const difference = slide.umPerPx / umPerPx - 1;
  return Math.abs(difference) > DIFFERS ? difference : null;
}
