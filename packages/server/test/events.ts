import type { InstrumentEvent } from '@clear-mark/contract';
import type { Caller } from './harness.ts';

/** A client of an event stream: what came, in order, until it is closed. */
export interface Events {
  readonly all: InstrumentEvent[];
  readonly until: (has: (all: readonly InstrumentEvent[]) => boolean, waitMs?: number) => Promise<void>;
  readonly close: () => void;
}

export async function openEvents(
  caller: Caller,
  path: string,
  headers: Record<string, string> = {},
): Promise<Events> {
  const control = new AbortController();
  const response = await caller.stream(path, headers, control.signal);
  const all: InstrumentEvent[] = [];
  let wake = (): void => undefined;
  void (async () => {
    const decoder = new TextDecoder();
    let text = '';
    try {
      for await (const chunk of response.body as unknown as AsyncIterable<Uint8Array>) {
        text += decoder.decode(chunk, { stream: true });
        for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
          const data = /^data: (.*)$/m.exec(text.slice(0, end))?.[1];
          text = text.slice(end + 2);
          if (data) all.push(JSON.parse(data) as InstrumentEvent);
        }
        wake();
      }
    } catch {
      // Closed by us or by the server.
    }
  })();
  return {
    all,
    until: async (has, waitMs = 5000) => {
      const end = Date.now() + waitMs;
      while (!has(all)) {
        if (Date.now() > end) throw new Error(`not within ${waitMs} ms: ${JSON.stringify(all.slice(-5))}`);
        await new Promise<void>((resolve) => {
          wake = resolve;
          setTimeout(resolve, 50);
        });
      }
    },
    close: () => control.abort(),
  };
}
