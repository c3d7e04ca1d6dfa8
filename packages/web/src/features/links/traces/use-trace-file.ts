import type { ListedEvent } from '@clear-mark/core';
import { onScopeDispose, shallowRef } from 'vue';
import { wordsOf } from '../../../api/client.ts';
import { traceClient } from './engine/trace-client.ts';
import type { OpenedTrace, TraceNews } from './engine/trace-orders.ts';

/** What a trace file holds. */
export interface OpenedFile {
  readonly traces: readonly OpenedTrace[];
  readonly table: readonly ListedEvent[];
  readonly marksM: readonly number[];
}

/** Opens trace files in a worker, one at a time; a file that cannot be read leaves what was there and says why. */
export function useTraceFile() {
  const worker = traceClient();
  onScopeDispose(() => worker.end());
  const failure = shallowRef<string | null>(null);

  const open = (bytes: ArrayBuffer, blind: boolean): Promise<TraceNews> =>
    new Promise((resolve) => {
      worker.ask({ order: 'open', bytes, blind }, resolve, (words) =>
        resolve({ news: 'problem', words: `The trace could not be opened: ${words}` }),
      );
    });

  async function opened(bytes: () => Promise<ArrayBuffer>, blind = false): Promise<OpenedFile | null> {
    failure.value = null;
    try {
      const news = await open(await bytes(), blind);
      if (news.news === 'opened') return news;
      failure.value = news.news === 'problem' ? news.words : null;
    } catch (error) {
      failure.value = wordsOf(error);
    }
    return null;
  }
  return { failure, opened };
}
