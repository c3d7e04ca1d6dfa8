import { ROUTES } from '@clear-mark/contract';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope, nextTick, ref } from 'vue';
import { classChanged, forgetReplies, queries, useAct, useReply } from './queries.ts';

/** A server that answers when the test says so. */
interface Asked {
  readonly path: string;
  readonly answer: (body: unknown, status?: number) => void;
  readonly lose: () => void;
}
let asked: Asked[] = [];
const settled = async (): Promise<void> => {
  for (let i = 0; i < 5; i += 1) {
    await new Promise((resolve) => {
      setTimeout(resolve);
    });
    await nextTick();
  }
};
const scope = effectScope();
const inScope = <T>(make: () => T): T => scope.run(make)!;

beforeEach(() => {
  asked = [];
  vi.stubGlobal('fetch', (path: string) => {
    return new Promise<Response>((resolve, reject) => {
      asked.push({
        path,
        answer: (body, status = 200) =>
          resolve(
            new Response(JSON.stringify(body), {
              status,
              headers: { 'Content-Type': status < 400 ? 'application/json' : 'application/problem+json' },
            }),
          ),
        lose: () => reject(new TypeError('no network')),
      });
    });
  });
  queries.setDefaultOptions({ queries: { ...queries.getDefaultOptions().queries, retryDelay: 0 } });
});
afterEach(() => {
  vi.unstubAllGlobals();
  forgetReplies();
});

describe('what a view reads from the server', () => {
  it('is asked for again when the filter changes; the last answer stays until then, a late one is dropped', async () => {
    const skill = ref('strip');
    const { found } = inScope(() =>
      useReply(ROUTES.skillsInTime, () => ({ params: { id: 'c' }, query: { skill: skill.value } as never })),
    );
    await settled();
    asked[0]!.answer(['of strip']);
    await settled();
    expect(found.value).toEqual(['of strip']);
    skill.value = 'cleave';
    await settled();
    expect(asked.map((a) => a.path)).toHaveLength(2);
    expect(found.value).toEqual(['of strip']);
    skill.value = 'splice';
    await settled();
    asked[2]!.answer(['of splice']);
    await settled();
    asked[1]!.answer(['of cleave']);
    await settled();
    expect(found.value).toEqual(['of splice']);
  });

  it('of another subject begins empty, and one that was seen before is there at once', async () => {
    const id = ref('one');
    const { found } = inScope(() => useReply(ROUTES.plan, () => ({ params: { id: id.value } })));
    await settled();
    asked[0]!.answer({ items: [], sessions: [] });
    await settled();
    id.value = 'two';
    await settled();
    expect(found.value).toBeNull();
    id.value = 'one';
    await settled();
    expect(found.value).toEqual({ items: [], sessions: [] });
  });

  it('is asked for twice where the server is not reached, once where it refuses; what was there stays', async () => {
    const { found, failure, again } = inScope(() => useReply(ROUTES.people, () => ({})));
    await settled();
    asked[0]!.lose();
    await settled();
    expect([asked.length, failure.value]).toEqual([2, null]);
    asked[1]!.answer([{ id: 'p' }]);
    await settled();
    expect(found.value).toHaveLength(1);
    const repeated = again();
    await settled();
    asked[2]!.answer({ code: 'session.required', detail: 'Sign in first.', status: 401 }, 401);
    await repeated;
    await settled();
    expect([asked.length, failure.value]).toEqual([3, 'Sign in first.']);
    expect(found.value).toHaveLength(1);
  });

  it('is asked for again when its class has changed, and no other class is', async () => {
    inScope(() => useReply(ROUTES.plan, () => ({ params: { id: 'mine' } })));
    inScope(() => useReply(ROUTES.plan, () => ({ params: { id: 'other' } })));
    await settled();
    for (const question of asked) question.answer({ items: [], sessions: [] });
    await settled();
    classChanged('mine');
    await settled();
    expect(asked.slice(2).map((a) => a.path)).toEqual([expect.stringContaining('mine')]);
  });

  it('takes what a change was answered with, and asks nothing while nothing is given', async () => {
    const { found, put } = inScope(() => useReply(ROUTES.plan, () => ({ params: { id: 'put' } })));
    const none = inScope(() => useReply(ROUTES.methodVersion, () => null));
    await settled();
    asked[0]!.answer({ items: [], sessions: [] });
    await settled();
    put({ items: [], sessions: [{ id: 's' }] } as never);
    await settled();
    expect(found.value?.sessions).toHaveLength(1);
    expect([asked.length, none.found.value]).toEqual([1, null]);
  });
});

describe('what a view asks the server to do', () => {
  it('is tried once, and says in words why it was not done', async () => {
    const { act, failure, busy } = inScope(() => useAct());
    let tries = 0;
    const first = act(() => {
      tries += 1;
      return Promise.reject(new Error('lost'));
    });
    await nextTick();
    expect(busy.value).toBe(true);
    expect(await first).toBe(false);
    expect(tries).toBe(1);
    await settled();
    expect(failure.value).toMatch(/\.$/);
    expect(await act(() => Promise.resolve(1))).toBe(true);
    await settled();
    expect([failure.value, busy.value]).toEqual([null, false]);
  });
});
