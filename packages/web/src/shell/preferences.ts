import { defineStore } from 'pinia';
import { ref, watch, watchEffect } from 'vue';
import { deviceSettings } from '../storage/device-settings.ts';
import { useSession } from '../session/session.ts';

type Theme = 'light' | 'dark';
type LengthUnit = 'mm' | 'in';
type DistanceUnit = 'm' | 'ft';

/** Light or dark belongs to this device; the units to the person who is signed in on it. */
export const usePreferences = defineStore('preferences', () => {
  const session = useSession();
  const stored = deviceSettings.read('theme');
  const asked = matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light';
  const theme = ref<Theme>(stored === 'dark' || stored === 'light' ? stored : asked);
  const lengthUnit = ref<LengthUnit>('mm');
  const distanceUnit = ref<DistanceUnit>('m');
  watchEffect(() => {
    document.documentElement.dataset['theme'] = theme.value;
  });
  const key = (): string => `units ${session.me?.id ?? ''}`;
  watch(
    () => session.me?.id,
    () => {
      const [length, distance] = (deviceSettings.read(key()) ?? '').split(' ');
      lengthUnit.value = length === 'in' ? 'in' : 'mm';
      distanceUnit.value = distance === 'ft' ? 'ft' : 'm';
    },
    { immediate: true },
  );
  function setTheme(next: Theme): void {
    theme.value = next;
    deviceSettings.write('theme', next);
  }
  function setUnits(length: LengthUnit, distance: DistanceUnit): void {
    lengthUnit.value = length;
    distanceUnit.value = distance;
    deviceSettings.write(key(), `${length} ${distance}`);
  }
  return { theme, lengthUnit, distanceUnit, setTheme, setUnits };
});
