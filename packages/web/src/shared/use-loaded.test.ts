import { describe, expect, it } from 'vitest';
import { effectScope, nextTick, ref } from 'vue';
import { useLoaded } from './use-loaded.ts';

/** Loads that are answered when the test says so. */
function answers() {
  const open: { resolve: (value: string) => void; reject: (error: Error) => void }[] = [];
  const load = (): Promise<string> =>
    new Promise((resolve, reject) => {
      open.push({ resolve, reject });
    });
  return { open, load };
}
const settled = async (): Promise<void> => {
  for (let i = 0; i < 4; i++) await nextTick();
};

describe('what is loaded for a key', () => {
  it('is loaded again when the key changes, and a late answer does not overwrite a newer one', async () => {
    const { open, load } = answers();
    const key = ref('a');
    const scope = effectScope();
    const { found } = scope.run(() => useLoaded(() => key.value, load))!;
    key.value = 'b';
    await nextTick();
    expect(open).toHaveLength(2);
    open[1]!.resolve('of b');
    await settled();
    open[0]!.resolve('of a');
    await settled();
    expect(found.value).toBe('of b');
    scope.stop();
  });
  it('keeps what was there when something fails, says so, and forgets it when it works again', async () => {
    const { open, load } = answers();
    const scope = effectScope();
    const { found, failure, again } = scope.run(() => useLoaded(() => 1, load))!;
    open[0]!.resolve('first');
    await settled();
    void again();
    open[1]!.reject(new Error('no server'));
    await settled();
    expect(found.value).toBe('first');
    expect(failure.value).toMatch(/\.$/);
    void again();
    open[2]!.resolve('second');
    await settled();
    expect([found.value, failure.value]).toEqual(['second', null]);
    scope.stop();
  });
});
