import { usePreferredContrast, usePreferredDark } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, watch, watchEffect } from 'vue';
import { deviceSettings } from '../storage/device-settings.ts';
import { useSession } from '../session/session.ts';

/** Light or dark, or whichever the device is set to. */
export type ThemeChoice = 'device' | 'light' | 'dark';
type LengthUnit = 'mm' | 'in';
type DistanceUnit = 'm' | 'ft';

/** Light, dark and contrast belong to this device; the units to the person who is signed in on it. */
export const usePreferences = defineStore('preferences', () => {
  const session = useSession();
  const stored = deviceSettings.read('theme');
  const dark = usePreferredDark();
  const asked = usePreferredContrast();
  const choice = ref<ThemeChoice>(stored === 'dark' || stored === 'light' ? stored : 'device');
  const theme = computed(() => (choice.value === 'device' ? (dark.value ? 'dark' : 'light') : choice.value));
  const ownContrast = ref(deviceSettings.read('contrast'));
  const contrast = computed(() =>
    ownContrast.value === null ? asked.value === 'more' : ownContrast.value === 'more',
  );
  const lengthUnit = ref<LengthUnit>('mm');
  const distanceUnit = ref<DistanceUnit>('m');
  watchEffect(() => {
    document.documentElement.dataset['theme'] = theme.value;
    document.documentElement.dataset['contrast'] = contrast.value ? 'more' : 'usual';
  });
  const explained = ref(deviceSettings.read('step-text') === 'always');
  function setExplained(always: boolean): void {
    explained.value = always;
    deviceSettings.write('step-text', always ? 'always' : 'first');
  }
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
  function setTheme(next: ThemeChoice): void {
    choice.value = next;
    deviceSettings.write('theme', next);
  }
  function setContrast(more: boolean): void {
    ownContrast.value = more ? 'more' : 'usual';
    deviceSettings.write('contrast', ownContrast.value);
  }
  function setUnits(length: LengthUnit, distance: DistanceUnit): void {
    lengthUnit.value = length;
    distanceUnit.value = distance;
    deviceSettings.write(key(), `${length} ${distance}`);
  }
  return {
    explained,
    setExplained,
    theme,
    choice,
    contrast,
    lengthUnit,
    distanceUnit,
    setTheme,
    setContrast,
    setUnits,
  };
});
