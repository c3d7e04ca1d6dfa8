import { isErrorCode, type ResultFilter, type WhatIfCounts, type WhatIfSetting } from '@clear-mark/contract';
import type { Policy } from '@clear-mark/core';
import { errorWords } from '@clear-mark/words';
import { onScopeDispose, ref, shallowRef } from 'vue';
import { workerClient } from '../../../workers/worker-client.ts';
import { useServerJob } from './use-server-job.ts';
import type { WhatIfNews, WhatIfOrder } from './what-if-worker.ts';

export interface WhatIfFound {
  readonly setting: WhatIfSetting;
  readonly counts: WhatIfCounts;
}

/** Scores the class again by other settings: in a worker, or by a job of the server where there is too much for it. */
export function useWhatIf(classId: () => string) {
  /** What was found, each with the setting that it was found by, whatever is asked meanwhile. */
  const results = shallowRef<readonly WhatIfFound[] | null>(null);
  const progress = ref<{ done: number; total: number } | null>(null);
  const failure = ref<string | null>(null);
  const ms = ref<number | null>(null);
  const worker = workerClient<WhatIfOrder, WhatIfNews>(
    () => new Worker(new URL('./what-if-worker.ts', import.meta.url), { type: 'module' }),
  );
  const there = useServerJob(classId);

  function run(filter: ResultFilter, policy: Policy, settings: readonly WhatIfSetting[]): void {
    cancel();
    failure.value = null;
    progress.value = { done: 0, total: 0 };
    const order: WhatIfOrder = JSON.parse(
      JSON.stringify({ classId: classId(), filter, policy, settings, nowMs: Date.now() }),
    ) as WhatIfOrder;
    worker.ask(
      order,
      (news) => hear(news, order),
      () => fail('The attempts could not be read. Is the server there?'),
    );
  }
  function hear(news: WhatIfNews, order: WhatIfOrder): void {
    switch (news.news) {
      case 'progress':
        progress.value = { done: news.done, total: news.total };
        break;
      case 'too_many':
        void runThere(order);
        break;
      case 'done':
        done(news.results, order, news.ms);
        break;
      case 'refused':
        fail(
          isErrorCode(news.code) ? errorWords(news.code, news.params) : 'That setting cannot be scored by.',
        );
        break;
      default: {
        const never: never = news;
        return never;
      }
    }
  }
  async function runThere(order: WhatIfOrder): Promise<void> {
    const { filter, settings } = order;
    const started = performance.now();
    const found = await there.run(filter, settings, (now) => (progress.value = now));
    if (found.kind === 'done') done(found.results, order, performance.now() - started);
    else if (found.kind === 'failed') fail(found.words);
  }
  function done(found: readonly WhatIfCounts[], { settings }: WhatIfOrder, took: number): void {
    results.value = found.map((counts, i) => ({ counts, setting: settings[i]! }));
    [progress.value, ms.value] = [null, took];
  }
  function fail(words: string): void {
    [failure.value, progress.value] = [words, null];
  }
  /** Work that is under way ends; what was found before stays on the page. */
  function cancel(): void {
    there.cancel();
    if (progress.value) worker.end();
    progress.value = null;
  }
  onScopeDispose(() => {
    cancel();
    worker.end();
  });
  return { results, progress, failure, ms, run, cancel };
}
