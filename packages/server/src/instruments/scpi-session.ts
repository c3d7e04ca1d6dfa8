import { connect, type Socket } from 'node:net';
import { createFramer, type Framer } from '@clear-mark/core';
import type { StationFault } from '@clear-mark/contract';

/** Why an exchange with an instrument failed. The session is closed then: a late answer must not pass for the next. */
export class ScpiFailure extends Error {
  constructor(readonly fault: StationFault) {
    super(fault);
    this.name = 'ScpiFailure';
  }
}

export interface ScpiAddress {
  readonly host: string;
  readonly port: number;
}
export interface ScpiTimes {
  readonly connectMs: number;
  readonly answerMs: number;
  /** Of an instrument that sends whole traces; the usual limit without it. */
  readonly longestMessage?: number;
}

/** Longest response message that is taken; beyond it the instrument is broken or is none. */
const LONGEST_MESSAGE = 65_536;

interface Waiting {
  readonly resolve: (message: string) => void;
  readonly reject: (failure: ScpiFailure) => void;
  timer: NodeJS.Timeout | null;
}

/**
 * One connection to an instrument that speaks SCPI over a TCP socket: program messages end with a line feed, each query
 * message has one response message (IEEE 488.2). Exchanges run one after the other. Whatever goes wrong ends the session
 * with a fault; nothing is asked twice on the same connection.
 */
export class ScpiSession {
  private readonly framer: Framer;
  private readonly queue: Waiting[] = [];
  private ended: StationFault | null = null;
  onEnd: (fault: StationFault) => void = () => undefined;

  private constructor(
    private readonly socket: Socket,
    private readonly answerMs: number,
    longestMessage: number,
  ) {
    this.framer = createFramer(longestMessage);
    socket.setEncoding('latin1');
    socket.setNoDelay(true);
    socket.on('data', (text) => this.take(String(text)));
    socket.on('error', () => this.end('closed'));
    socket.on('close', () => this.end(this.framer.partial() ? 'half_a_line' : 'closed'));
  }

  /** Errors: `ScpiFailure` unreachable. */
  static open(address: ScpiAddress, times: ScpiTimes): Promise<ScpiSession> {
    return new Promise((resolve, reject) => {
      const socket = connect({ host: address.host, port: address.port });
      const fail = (): void => {
        clearTimeout(timer);
        socket.destroy();
        reject(new ScpiFailure('unreachable'));
      };
      const timer = setTimeout(fail, times.connectMs);
      socket.once('error', fail);
      socket.once('connect', () => {
        clearTimeout(timer);
        socket.off('error', fail);
        resolve(new ScpiSession(socket, times.answerMs, times.longestMessage ?? LONGEST_MESSAGE));
      });
    });
  }

  /** A message without an answer. */
  send(message: string): void {
    if (this.ended) throw new ScpiFailure(this.ended);
    this.socket.write(`${message}\n`, 'latin1');
  }

  /** A message and its one response message. Errors: `ScpiFailure` silent, closed, half_a_line, line_too_long, bad_block. */
  query(message: string): Promise<string> {
    return new Promise((resolve, reject) => {
      if (this.ended) return reject(new ScpiFailure(this.ended));
      const waiting: Waiting = { resolve, reject, timer: null };
      this.queue.push(waiting);
      if (this.queue.length === 1) this.watch(waiting);
      this.socket.write(`${message}\n`, 'latin1');
    });
  }

  close(): void {
    this.end('closed');
  }

  private watch(waiting: Waiting): void {
    waiting.timer = setTimeout(() => this.end('silent'), this.answerMs);
  }

  private take(text: string): void {
    const { messages, failed } = this.framer.push(text);
    for (const message of messages) {
      const waiting = this.queue.shift();
      // An answer that nobody asked for means that questions and answers are out of step.
      if (!waiting) return this.end('garbage');
      if (waiting.timer) clearTimeout(waiting.timer);
      const next = this.queue[0];
      if (next) this.watch(next);
      waiting.resolve(message);
    }
    if (failed) this.end(failed);
  }

  private end(fault: StationFault): void {
    if (this.ended) return;
    this.ended = fault;
    this.socket.destroy();
    for (const waiting of this.queue.splice(0)) {
      if (waiting.timer) clearTimeout(waiting.timer);
      waiting.reject(new ScpiFailure(fault));
    }
    this.onEnd(fault);
  }
}
