import { ref, type Ref, shallowRef, type ShallowRef, watch } from 'vue';
import { wordsOf } from '../api/client.ts';

/**
 * What is loaded for a key and again whenever that changes; what was there stays while something fails, with the words of the
 * failure. An answer that comes after a newer question is dropped.
 */
export function useLoaded<T>(
  key: () => unknown,
  load: () => Promise<T>,
): {
  readonly found: ShallowRef<T | null>;
  readonly failure: Ref<string | null>;
  readonly again: () => Promise<void>;
} {
  const found = shallowRef<T | null>(null) as ShallowRef<T | null>;
  const failure = ref<string | null>(null);
  let asked = 0;
  const again = async (): Promise<void> => {
    const mine = ++asked;
    try {
      const answer = await load();
      if (mine === asked) [found.value, failure.value] = [answer, null];
    } catch (error) {
      if (mine === asked) failure.value = wordsOf(error);
    }
  };
  watch(() => JSON.stringify(key()), again, { immediate: true });
  return { found, failure, again };
}
