// @vitest-environment happy-dom
import { describe, expect, it, vi } from 'vitest';
import { defineComponent, h } from 'vue';
import { freshPages, openPage, settled } from '../../../test/page.ts';
import { usePicture } from './use-picture.ts';

freshPages();

type Answer = (reading: string) => void;
/** A picture that a worker has measured once, and the answers that it still owes. */
async function measuredOnce() {
  const owed: Answer[] = [];
  const measured = vi.fn(
    () =>
      new Promise<{ width: number; height: number; reading: string }>((resolve) => {
        owed.push((reading) => resolve({ width: 4, height: 3, reading }));
      }),
  );
  let picture: ReturnType<typeof usePicture<string>> | null = null;
  await openPage(
    defineComponent(() => {
      picture = usePicture<string>(() => ({ classId: 'c', attemptId: 'a', criterionId: 'x' }), {
        measured,
        isStill: () => true,
        begin: () => undefined,
      });
      return () => h('p', 'a picture');
    }),
  );
  const taken = picture!.take(new Blob(['x']), 'a.png', 'file');
  owed.shift()!('first');
  await taken;
  return { picture: picture!, owed };
}

describe('a picture that is measured anew', () => {
  it('shows what was set last, in whatever order the answers come', async () => {
    const { picture, owed } = await measuredOnce();
    expect(picture.shot.value!.reading).toBe('first');
    const both = [picture.again(), picture.again()];
    expect(picture.busy.value).toBe(true);
    owed[0]!('earlier place');
    await settled();
    expect(picture.shot.value!.reading).toBe('first');
    expect(picture.busy.value).toBe(true);
    owed[1]!('later place');
    await Promise.all(both);
    expect(picture.shot.value!.reading).toBe('later place');
    expect(picture.busy.value).toBe(false);
  });
  it('is not kept while that is under way', async () => {
    const { picture, owed } = await measuredOnce();
    const anew = picture.again();
    const value = { text: '1.00', expanded: '0.10' };
    expect(await picture.keep(value, {}, (id) => ({ kind: 'check', verdict: id }) as never)).toBeNull();
    // Nothing was sent: no server was asked, and none is said to be away.
    expect(picture.failure.value).toBeNull();
    owed[0]!('second');
    await anew;
    expect(picture.shot.value!.reading).toBe('second');
  });
  it('of a picture that was put away meanwhile says nothing', async () => {
    const { picture, owed } = await measuredOnce();
    const anew = picture.again();
    picture.drop();
    owed[0]!('second');
    await anew;
    expect(picture.shot.value).toBeNull();
  });
});
