import { watch } from 'vue';
import { beep } from '../../../shared/beep.ts';

/** A tone once for each load that is to be taken out, by its id. */
export function useOvenTone(due: () => readonly string[]): void {
  const heard = new Set<string>();
  watch(
    due,
    (ids) => {
      const fresh = ids.filter((id) => !heard.has(id));
      for (const id of fresh) heard.add(id);
      if (fresh.length > 0) beep();
    },
    { immediate: true },
  );
}
