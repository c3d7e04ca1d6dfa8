import type { NumberedNews, NumberedOrder } from './protocol.ts';

/** The part of a worker that is needed of it. */
export type WorkerLike = Pick<
  Worker,
  'postMessage' | 'terminate' | 'onmessage' | 'onerror' | 'onmessageerror'
>;

export interface WorkerClient<Order, News> {
  /**
   * Gives the worker an order; its news come to `hear`, in order. When its work is lost, by an error or because the worker
   * died, `lost` is called once, with the words of the browser.
   */
  readonly ask: (order: Order, hear: (news: News) => void, lost: (words: string) => void) => void;
  /** Ends the worker and whatever it works on, without a word to those who asked; the next order begins a new one. */
  readonly end: () => void;
}

/** The page's side of a worker, begun with the first order. */
export function workerClient<Order, News>(begin: () => WorkerLike): WorkerClient<Order, News> {
  interface Asked {
    readonly hear: (news: News) => void;
    readonly lost: (words: string) => void;
  }
  const asked = new Map<number, Asked>();
  let worker: WorkerLike | null = null;
  let next = 0;

  function end(): void {
    worker?.terminate();
    worker = null;
    asked.clear();
  }
  /** A worker that dies says so once, and nothing more: everybody who waits is told. */
  function died(words: string): void {
    const waiting = [...asked.values()];
    end();
    for (const { lost } of waiting) lost(words);
  }
  function hear(message: NumberedNews<News>): void {
    const who = asked.get(message.id);
    if ('news' in message) return who?.hear(message.news);
    asked.delete(message.id);
    if ('lost' in message) who?.lost(message.lost);
  }
  function begun(): WorkerLike {
    if (worker) return worker;
    worker = begin();
    worker.onmessage = ({ data }: MessageEvent<NumberedNews<News>>) => hear(data);
    worker.onerror = ({ message }) => died(message);
    worker.onmessageerror = () => died('What the worker said could not be read.');
    return worker;
  }
  return {
    ask: (order, heard, lost) => {
      const id = next++;
      asked.set(id, { hear: heard, lost });
      begun().postMessage({ id, order } satisfies NumberedOrder<Order>);
    },
    end,
  };
}
