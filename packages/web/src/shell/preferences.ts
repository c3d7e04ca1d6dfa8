import { defineStore } from 'pinia';
import { ref, watchEffect } from 'vue';

type Theme = 'light' | 'dark';

/** Personal settings of this device. */
export const usePreferences = defineStore('preferences', () => {
  const stored = localStorage.getItem('theme');
  const asked = matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light';
  const theme = ref<Theme>(stored === 'dark' || stored === 'light' ? stored : asked);
  const lengthUnit = ref<'mm' | 'in'>(localStorage.getItem('length') === 'in' ? 'in' : 'mm');
  watchEffect(() => {
    document.documentElement.dataset['theme'] = theme.value;
    localStorage.setItem('length', lengthUnit.value);
  });
  function setTheme(next: Theme): void {
    theme.value = next;
    localStorage.setItem('theme', next);
  }
  return { theme, lengthUnit, setTheme };
});
