import { DomainError } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { effectScope, nextTick, ref } from 'vue';
import { useCommittedValue } from './use-committed-value.ts';

function field(more: { slips?: string[]; bad?: string[]; settled?: boolean } = {}) {
  const standing = ref('');
  const taken: [string, boolean][] = [];
  const made = effectScope().run(() =>
    useCommittedValue({
      stands: () => standing.value,
      settled: () => more.settled ?? true,
      looksSlipped: (text) => {
        if (more.bad?.includes(text)) throw new DomainError('time.not_an_instant', { text });
        return more.slips?.includes(text) ?? false;
      },
      commit: (text, confirmed) => void taken.push([text, confirmed]),
    }),
  )!;
  return { ...made, standing, taken };
}

describe('a field that is entered', () => {
  it('hands over what was typed, without the room round it', () => {
    const f = field();
    f.text.value = ' 16.4 ';
    expect([f.take(), f.taken]).toEqual([true, [['16.4', false]]]);
  });
  it('nothing typed is nothing handed over; what stands is not handed over twice', async () => {
    const f = field();
    expect(f.take()).toBe(false);
    f.standing.value = '16.4';
    await nextTick();
    expect([f.text.value, f.take(), f.taken]).toEqual(['16.4', true, []]);
  });
  it('what stands is handed over again where it does not count yet', async () => {
    const f = field({ settled: false });
    f.standing.value = '16.4';
    await nextTick();
    f.take();
    expect(f.taken).toEqual([['16.4', false]]);
  });
  it('a likely slip is asked about once, and kept when it is entered again', () => {
    const f = field({ slips: ['164'] });
    f.text.value = '164';
    expect([f.take(), f.asking.value, f.taken]).toEqual([false, '164', []]);
    f.leave();
    expect(f.taken).toEqual([]);
    expect([f.take(), f.asking.value, f.taken]).toEqual([true, null, [['164', true]]]);
  });
  it('another text is a question of its own', () => {
    const f = field({ slips: ['164', '163'] });
    f.text.value = '164';
    f.take();
    f.text.value = '163';
    expect([f.take(), f.asking.value, f.taken]).toEqual([false, '163', []]);
  });
  it('what is no value is told, and stays as it was typed', () => {
    const f = field({ bad: ['x'] });
    f.text.value = 'x';
    f.leave();
    expect([f.text.value, f.taken]).toEqual(['x', []]);
    expect(f.problem.value).toMatch(/\.$/);
    f.text.value = '2';
    f.leave();
    expect([f.problem.value, f.taken]).toEqual([null, [['2', false]]]);
  });
  it('follows what stands by now, and forgets what was asked and told', async () => {
    const f = field({ slips: ['164'] });
    f.text.value = '164';
    f.take();
    f.standing.value = '16.4';
    await nextTick();
    expect([f.text.value, f.asking.value, f.problem.value]).toEqual(['16.4', null, null]);
  });
});
