import type { ResultFilter, WhatIfCounts, WhatIfSetting } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { request, ROUTES, wordsOf } from '../../../api/client.ts';

const ASK_MS = 500;

export type JobEnd =
  | { readonly kind: 'done'; readonly results: readonly WhatIfCounts[] }
  | { readonly kind: 'failed'; readonly words: string }
  | { readonly kind: 'cancelled' };

/** A job of the server that scores again: started, asked about until it ends, cancelled; one at a time. */
export function useServerJob(classId: () => string) {
  let job: string | null = null;

  async function run(
    filter: ResultFilter,
    settings: readonly WhatIfSetting[],
    tell: (progress: { done: number; total: number }) => void,
  ): Promise<JobEnd> {
    const mine = v7();
    job = mine;
    const params = { id: classId(), jobId: mine };
    try {
      const body = { id: mine, settings: [...settings], filter };
      let state = await request(ROUTES.startWhatIf, { params: { id: classId() }, body });
      while (state.state === 'running' && job === mine) {
        tell({ done: state.done, total: state.total });
        await new Promise((resolve) => setTimeout(resolve, ASK_MS));
        state = await request(ROUTES.whatIf, { params });
      }
      if (job !== mine) return { kind: 'cancelled' };
      job = null;
      return state.state === 'done'
        ? { kind: 'done', results: state.results }
        : { kind: 'failed', words: 'The server could not finish it. Start it again.' };
    } catch (error) {
      return job === mine ? { kind: 'failed', words: wordsOf(error) } : { kind: 'cancelled' };
    }
  }
  function cancel(): void {
    if (!job) return;
    const params = { id: classId(), jobId: job };
    job = null;
    void request(ROUTES.cancelWhatIf, { params }).catch(() => undefined);
  }
  return { run, cancel };
}
