import { shuffled } from '@clear-mark/sim';
import { v7 } from 'uuid';
import { onScopeDispose, ref } from 'vue';
import { request, ROUTES, wordsOf } from '../../../../api/client.ts';
import { sendTrace } from '../../../../api/trace-files.ts';
import { traceClient } from '../engine/trace-client.ts';

/** Makes series: from simulated plants, half of them over a limit, which are kept as traces of the class; or from kept traces. */
export function useTraceSeries(classId: () => string) {
  const worker = traceClient();
  onScopeDispose(() => worker.end());
  const busy = ref(false);
  const done = ref<number | null>(null);
  const failure = ref<string | null>(null);

  function drawn(count: number): Promise<Uint8Array<ArrayBuffer>[]> {
    return new Promise((resolve, reject) => {
      const files: Uint8Array<ArrayBuffer>[] = [];
      worker.ask(
        { order: 'make', count, seed: Math.floor(Math.random() * 1e9) },
        (news) => {
          if (news.news !== 'made') return;
          files.push(news.bytes);
          if (files.length === count) resolve(files);
        },
        (words) => reject(new Error(words)),
      );
    });
  }
  async function tried(work: () => Promise<void>): Promise<boolean> {
    [busy.value, failure.value] = [true, null];
    try {
      await work();
      return true;
    } catch (error) {
      failure.value = wordsOf(error);
      return false;
    } finally {
      [busy.value, done.value] = [false, null];
    }
  }
  const set = (label: string, traceIds: readonly string[]): Promise<unknown> =>
    request(ROUTES.addTraceSeries, {
      params: { id: classId() },
      body: { id: v7(), label, traceIds: [...traceIds] },
    });

  const fromPlants = (label: string, count: number): Promise<boolean> =>
    tried(async () => {
      done.value = 0;
      const ids: string[] = [];
      for (const bytes of shuffled(Math.random, await drawn(count))) {
        const id = v7();
        const name = `${label}, ${ids.length + 1}`.slice(0, 60);
        await sendTrace(classId(), { id, label: name, source: 'stand_in', bytes });
        ids.push(id);
        done.value = ids.length;
      }
      await set(label, ids);
    });
  const fromKept = (label: string, ids: readonly string[]): Promise<boolean> =>
    tried(async () => void (await set(label, shuffled(Math.random, ids))));
  return { busy, done, failure, fromPlants, fromKept };
}
