import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { NoServer, Refusal } from '../api/client.ts';
import { deliveryOf } from './delivery.ts';
import type { Queued } from './device-store.ts';

const entry = (n: number): Queued =>
  ({
    id: `e${n}`,
    entry: { id: `e${n}`, attemptId: `a${n}` },
    state: 'waiting',
    authorId: 'me',
    detail: null,
  }) as unknown as Queued;

/** A queue of so many entries of a piece each; what is sent leaves it. */
function queue(count: number, send: (batch: readonly Queued[]) => Promise<void>) {
  let items = Array.from({ length: count }, (_, i) => entry(i));
  const batches: number[] = [];
  const delivery = deliveryOf(
    (most, resting) =>
      items
        .filter((q) => !resting.has(`attempt ${q.entry!.attemptId}`) && !resting.has(q.entry!.attemptId))
        .slice(0, most),
    async (batch) => {
      batches.push(batch.length);
      await send(batch);
      items = items.filter((q) => !batch.includes(q));
    },
  );
  return { delivery, batches, left: () => items.map((q) => q.id) };
}
const refusal = (status: number): Refusal => new Refusal('server.failed' as never, status, 'It failed.');

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

describe('what waits goes out', () => {
  it('in order and at once, and is idle then', async () => {
    const { delivery, batches, left } = queue(250, () => Promise.resolve());
    await delivery.drain();
    expect([batches, left(), delivery.state.value]).toEqual([[200, 50], [], 'idle']);
  });
  it('one send at a time, however often it is asked for', async () => {
    let open = 0;
    let most = 0;
    const { delivery, left } = queue(5, async () => {
      open += 1;
      most = Math.max(most, open);
      await Promise.resolve();
      open -= 1;
    });
    await Promise.all([delivery.drain(), delivery.drain(), delivery.drain()]);
    expect([most, left()]).toEqual([1, []]);
  });
  it('waits longer and longer where no server answers, and goes on when one does', async () => {
    let away = true;
    const { delivery, batches, left } = queue(3, () =>
      away ? Promise.reject(new NoServer('x')) : Promise.resolve(),
    );
    await delivery.drain();
    expect(delivery.state.value).toBe('no_server');
    await vi.advanceTimersByTimeAsync(1000);
    await vi.advanceTimersByTimeAsync(1999);
    expect(batches).toHaveLength(2);
    await vi.advanceTimersByTimeAsync(1);
    expect(batches).toHaveLength(3);
    away = false;
    await vi.advanceTimersByTimeAsync(10_000);
    expect([left(), delivery.state.value]).toEqual([[], 'idle']);
  });
  it('nothing is asked again of a session that has ended', async () => {
    const { delivery, batches, left } = queue(2, () => Promise.reject(refusal(401)));
    await delivery.drain();
    await vi.advanceTimersByTimeAsync(60_000);
    expect([delivery.state.value, batches.length, left().length]).toEqual(['signed_out', 1, 2]);
  });
  it('where the server fails on one, batches become smaller, that one rests, and everything else is sent', async () => {
    const { delivery, batches, left } = queue(8, (batch) =>
      batch.some((q) => q.id === 'e3') ? Promise.reject(refusal(500)) : Promise.resolve(),
    );
    await delivery.drain();
    await vi.advanceTimersByTimeAsync(15_000);
    expect(left()).toEqual(['e3']);
    expect(Math.min(...batches)).toBe(1);
    expect(delivery.restsWhy(entry(3))).toBe('It failed.');
    expect(delivery.restsWhy(entry(4))).toBeNull();
  });
});
