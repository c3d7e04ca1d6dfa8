import type { Request, Response } from 'express';
import type { ChangeNotifier } from './notifier.ts';
import { sessionName } from '../people/index.ts';

/** Shorter than what proxies and browsers wait for; a client that hears nothing for longer asks by itself. */
const HEARTBEAT_MS = 10_000;
/** A client that lets so much pile up has lost touch; it comes back and is given what it missed. */
const MOST_WAITING_BYTES = 1_048_576;

export interface EventStream {
  /** Writes whole lines of the event stream. */
  readonly write: (lines: string) => void;
  readonly end: () => void;
}

/**
 * A stream of server-sent events that lives as long as its session: it ends when the session is signed out, in whatever
 * process, and when it has run out. `begin` gets the stream and gives back what ends its listening.
 */
export function eventStream(
  request: Request,
  response: Response,
  notifier: ChangeNotifier,
  begin: (stream: EventStream) => () => void,
): void {
  response.writeHead(200, {
    'Content-Type': 'text/event-stream',
    'Cache-Control': 'no-store, no-transform',
    Connection: 'keep-alive',
    // Asks proxies in front to pass each event on at once.
    'X-Accel-Buffering': 'no',
  });
  response.locals['stream'] = true;
  response.socket?.setNoDelay(true);
  response.write('retry: 1000\n\n');
  const mine = sessionName(request.sessionID);
  const runsOut = request.session.cookie.expires?.getTime() ?? Infinity;
  const end = (): void => void response.end();
  const write = (lines: string): void => {
    if (response.writableEnded) return;
    if (response.writableLength > MOST_WAITING_BYTES) return void response.destroy();
    response.write(lines);
  };
  const leaveSession = notifier.listen('session', ({ what }) => {
    if (what === mine) end();
  });
  const leave = begin({ write, end });
  const beat = setInterval(() => {
    if (Date.now() > runsOut) return end();
    write(': here\n\n');
  }, HEARTBEAT_MS);
  response.on('close', () => {
    clearInterval(beat);
    leaveSession();
    leave();
  });
}
