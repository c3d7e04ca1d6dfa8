import type { Server, ServerResponse } from 'node:http';

/** The longest that an answer under way is waited for. */
const LONGEST_MS = 10_000;
const LOOK_MS = 20;

export interface Drain {
  /** From the first word of stopping on: whoever shares out requests sends no new ones here. */
  readonly stopping: () => boolean;
  /** Takes no new connection, lets answers under way come to their end, ends streams, and closes what is left. */
  readonly stop: () => Promise<void>;
}

/** `eventStream` marks an answer that never comes to its end by itself. */
const isStream = (response: ServerResponse): boolean =>
  (response as Partial<{ locals: Record<string, unknown> }>).locals?.['stream'] === true;

export interface UnderWay {
  readonly add: (response: ServerResponse) => void;
  /** Ends streams, and waits until the others have come to their end, or for ten seconds. */
  readonly end: (each?: () => void) => Promise<void>;
}

/** The answers that are under way. */
export function answersUnderWay(): UnderWay {
  const underWay = new Set<ServerResponse>();
  return {
    add: (response) => {
      underWay.add(response);
      response.once('close', () => underWay.delete(response));
    },
    end: async (each) => {
      for (const response of underWay) if (isStream(response)) response.end();
      const until = Date.now() + LONGEST_MS;
      while (underWay.size > 0 && Date.now() < until) {
        each?.();
        await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
      }
    },
  };
}

/** Ends a server without cutting anybody off who is being answered. */
export function drainOf(server: Server): Drain {
  const underWay = answersUnderWay();
  let stopping = false;
  server.prependListener('request', (_request, response: ServerResponse) => {
    underWay.add(response);
    // A connection that stays open would be closed under the next request.
    if (stopping) response.setHeader('Connection', 'close');
  });
  const stop = async (): Promise<void> => {
    stopping = true;
    const closed = new Promise<void>((resolve) => server.close(() => resolve()));
    await underWay.end(() => server.closeIdleConnections());
    server.closeAllConnections();
    await closed;
  };
  return { stopping: () => stopping, stop };
}
