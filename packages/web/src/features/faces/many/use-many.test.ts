// @vitest-environment happy-dom
import { faceCriteria } from '@clear-mark/core';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { createPinia, setActivePinia } from 'pinia';
import { nextTick } from 'vue';
import { useSession } from '../../../session/session.ts';
import type { NumberedNews, NumberedOrder } from '../../../workers/protocol.ts';
import type { FaceNews, FaceOrder } from '../engine/face-orders.ts';
import { MOST_PICTURES, useMany } from './use-many.ts';

const PC = faceCriteria('sm-pc')!;

/** A worker that answers when the test says so. */
class SlowWorker {
  static all: SlowWorker[] = [];
  onmessage: ((message: { data: NumberedNews<FaceNews> }) => void) | null = null;
  onerror: ((error: { message: string }) => void) | null = null;
  onmessageerror: unknown = null;
  ended = false;
  order: NumberedOrder<FaceOrder> | null = null;
  constructor() {
    SlowWorker.all.push(this);
  }
  postMessage(order: NumberedOrder<FaceOrder>): void {
    this.order = order;
  }
  terminate(): void {
    this.ended = true;
  }
  tell(news: FaceNews): void {
    const { id } = this.order!;
    this.order = null;
    this.onmessage!({ data: { id, news } });
    this.onmessage!({ data: { id, through: true } });
  }
}
const file = (name: string): File => new File(['x'], name);
const atWork = (): SlowWorker[] => SlowWorker.all.filter((w) => !w.ended && w.order !== null);
const names = (): string[] => atWork().map((w) => w.order!.order.name);
const refuse = (worker: SlowWorker): void =>
  worker.tell({ news: 'done', found: { ok: false, reason: 'no_face' }, flat: null });

beforeEach(() => {
  SlowWorker.all = [];
  vi.stubGlobal('Worker', SlowWorker);
  vi.stubGlobal('navigator', { ...navigator, hardwareConcurrency: 2 });
  setActivePinia(createPinia());
});
afterEach(() => vi.unstubAllGlobals());

describe('many pictures at work', () => {
  const begun = (...files: string[]) => {
    const many = useMany();
    many.use(PC, 'single');
    many.add(files.map(file));
    return many;
  };

  it('are measured one a core, the next when one is through', () => {
    const many = begun('1.png', '2.png', '3.png');
    expect(names()).toEqual(['1.png', '2.png']);
    refuse(atWork()[0]!);
    expect(names()).toEqual(['3.png', '2.png']);
    atWork().forEach(refuse);
    expect(many.isBusy).toBe(false);
    expect(many.pictures.map((p) => p.state)).toEqual(['done', 'done', 'done']);
  });

  it('what is no picture by its name is counted and left out, and so is what is too much', () => {
    const many = begun('1.png', 'notes.txt', '2.JPEG');
    expect([many.pictures.length, many.leftOut]).toEqual([2, 1]);
    many.add(Array.from({ length: MOST_PICTURES }, (_, i) => file(`more ${i}.png`)));
    expect([many.pictures.length, many.leftOut]).toEqual([MOST_PICTURES, 3]);
  });

  it('one that cannot be read, or whose worker dies, holds up nobody', () => {
    const many = begun('1.png', '2.png', '3.png', '4.png');
    atWork()[0]!.tell({ news: 'problem', problem: 'cut' });
    const [, second] = atWork();
    second!.onerror!({ message: 'out of memory' });
    expect(names().sort()).toEqual(['3.png', '4.png']);
    expect(many.pictures[0]).toMatchObject({ state: 'broken', problem: expect.stringContaining('1.png') });
    expect(many.pictures[1]).toMatchObject({ state: 'broken' });
  });

  it('cancelled, keep what is graded and drop the rest', () => {
    const many = begun('1.png', '2.png', '3.png', '4.png');
    refuse(atWork()[0]!);
    many.cancel();
    expect(atWork()).toEqual([]);
    expect(many.pictures.map((p) => p.name)).toEqual(['1.png']);
    expect(many.isBusy).toBe(false);
  });

  it('by other criteria are measured again; by the same they are not', () => {
    const many = begun('1.png', '2.png');
    atWork().forEach(refuse);
    many.use(PC, 'single');
    expect(many.isBusy).toBe(false);
    many.use(faceCriteria('mm')!, 'single');
    expect(many.pictures.map((p) => p.state)).toEqual(['measuring', 'measuring']);
    expect(atWork()[0]!.order!.order.table.id).toBe('mm');
  });

  it('are gone when another person signs in', async () => {
    const many = begun('1.png');
    const session = useSession();
    session.$patch({ start: { me: { id: 'other' } } as never });
    await nextTick();
    expect([many.pictures, atWork()]).toEqual([[], []]);
  });
});
