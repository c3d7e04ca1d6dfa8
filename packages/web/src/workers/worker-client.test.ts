import { describe, expect, it } from 'vitest';
import type { NumberedOrder } from './protocol.ts';
import { workerClient, type WorkerLike } from './worker-client.ts';

/** A worker that keeps its orders and says what the test tells it to. */
class HandWorker implements WorkerLike {
  orders: NumberedOrder<string>[] = [];
  ended = false;
  onmessage: WorkerLike['onmessage'] = null;
  onerror: WorkerLike['onerror'] = null;
  onmessageerror: WorkerLike['onmessageerror'] = null;
  postMessage(message: unknown): void {
    this.orders.push(message as NumberedOrder<string>);
  }
  terminate(): void {
    this.ended = true;
  }
  say(data: unknown): void {
    this.onmessage?.call(this as never, { data } as MessageEvent);
  }
}

function made() {
  const workers: HandWorker[] = [];
  const client = workerClient<string, string>(() => {
    workers.push(new HandWorker());
    return workers.at(-1)!;
  });
  const told: string[] = [];
  const ask = (order: string): void =>
    client.ask(
      order,
      (news) => told.push(`${order}: ${news}`),
      (words) => told.push(`${order} lost: ${words}`),
    );
  return { client, workers, told, ask };
}

describe('the page’s side of a worker', () => {
  it('begins with the first order, and gives each one its own news', () => {
    const { workers, told, ask } = made();
    expect(workers).toHaveLength(0);
    ask('a');
    ask('b');
    const [worker] = workers;
    const [a, b] = worker!.orders;
    worker!.say({ id: b!.id, news: 'half' });
    worker!.say({ id: a!.id, news: 'done' });
    worker!.say({ id: b!.id, news: 'done' });
    worker!.say({ id: b!.id, through: true });
    worker!.say({ id: b!.id, news: 'late' });
    expect([workers.length, told]).toEqual([1, ['b: half', 'a: done', 'b: done']]);
  });

  it('an order that is lost is told once; the others go on', () => {
    const { workers, told, ask } = made();
    ask('a');
    ask('b');
    const [a, b] = workers[0]!.orders;
    workers[0]!.say({ id: a!.id, lost: 'no memory' });
    workers[0]!.say({ id: a!.id, news: 'late' });
    workers[0]!.say({ id: b!.id, news: 'done' });
    expect(told).toEqual(['a lost: no memory', 'b: done']);
  });

  it('when the worker dies everybody who waits is told, and the next order begins another', () => {
    const { workers, told, ask } = made();
    ask('a');
    ask('b');
    workers[0]!.onerror!.call(workers[0] as never, { message: 'died' } as ErrorEvent);
    expect(told).toEqual(['a lost: died', 'b lost: died']);
    expect(workers[0]!.ended).toBe(true);
    ask('c');
    expect(workers).toHaveLength(2);
  });

  it('ended by the page, nothing more is heard', () => {
    const { client, workers, told, ask } = made();
    ask('a');
    client.end();
    workers[0]!.say({ id: workers[0]!.orders[0]!.id, news: 'late' });
    expect([told, workers[0]!.ended]).toEqual([[], true]);
  });
});
