import type { InstrumentEvent, InstrumentOrder, InstrumentSetting, StationFault } from '@clear-mark/contract';
import { responseElements } from '@clear-mark/core';
import { DRIVERS, type Shown } from './drivers.ts';
import { ScpiFailure, ScpiSession } from './scpi-session.ts';

export type Listener = (event: InstrumentEvent) => void;

export interface StationSetting extends InstrumentSetting {
  readonly thingId: string;
}
export interface StationClock {
  readonly now: () => Date;
  /** A number that no event of this process had before. */
  readonly nextSeq: () => number;
  readonly connectMs: number;
  readonly answerMs: number;
  readonly firstWaitMs: number;
  readonly longestWaitMs: number;
}
export const USUAL_CLOCK: Omit<StationClock, 'now' | 'nextSeq'> = {
  connectMs: 2000,
  answerMs: 1000,
  firstWaitMs: 500,
  longestWaitMs: 8000,
};

/** Answers of no sense in a row after which the connection is made anew. */
const MOST_GARBAGE = 3;
/** Past readings that a listener who lost the stream for a moment can still have. */
const KEPT = 200;
/** Entries of an error queue that are read before it is left alone. */
const MOST_ERRORS = 20;

/**
 * One instrument of a class: connected while anybody listens, asked at its rate, connected again with growing waits when
 * it is lost. Every reading has a number of its own and the server's instant; what cannot be read is an event of its
 * own and never a reading.
 */
export class Station {
  private readonly listeners = new Set<Listener>();
  private readonly kept: InstrumentEvent[] = [];
  private session: ScpiSession | null = null;
  private running: Promise<void> | null = null;
  private stopped = true;
  private identity: string | null = null;
  private state: InstrumentEvent | null = null;
  private last: InstrumentEvent | null = null;
  private wake: (() => void) | null = null;

  constructor(
    readonly setting: StationSetting,
    private readonly clock: StationClock,
  ) {}

  /** Hears this instrument until the returned function is called; what it shows at present comes at once. */
  listen(listener: Listener, after: number | null): () => void {
    this.listeners.add(listener);
    if (this.state) listener(this.state);
    if (after !== null) this.kept.filter((e) => e.seq > after).forEach((e) => listener(e));
    else if (this.last) listener(this.last);
    this.start();
    return () => {
      this.listeners.delete(listener);
      if (this.listeners.size === 0) void this.stop();
    };
  }

  /** Errors: `ScpiFailure` refused, or what ended the session. */
  async order(order: InstrumentOrder): Promise<void> {
    const message = DRIVERS[this.setting.kind].order(order);
    if (message === null) throw new ScpiFailure('refused');
    const own = this.session ? null : await this.open();
    const session = this.session ?? own!;
    try {
      session.send(message);
      const [code] = responseElements(await session.query('SYST:ERR?'));
      if (Number(code) !== 0) throw new ScpiFailure('refused');
    } finally {
      own?.close();
    }
  }

  tell(claim: Extract<InstrumentEvent, { kind: 'claim' }>['claim']): void {
    const event: InstrumentEvent = { ...this.head(), kind: 'claim', claim };
    for (const listener of this.listeners) listener(event);
  }

  async stop(): Promise<void> {
    this.stopped = true;
    this.session?.close();
    this.wake?.();
    await this.running;
  }

  private start(): void {
    this.stopped = false;
    this.running ??= this.run().finally(() => {
      this.running = null;
      this.state = null;
      // Somebody came while it was stopping.
      if (this.listeners.size > 0 && !this.stopped) this.start();
    });
  }

  private async run(): Promise<void> {
    let wait = this.clock.firstWaitMs;
    while (!this.stopped) {
      this.change('connecting', null);
      let fault: StationFault;
      const began = Date.now();
      try {
        const session = await this.open();
        this.session = session;
        if (this.stopped) session.close();
        this.identity = await this.identify(session);
        this.change('ready', null);
        fault = await this.readings(session);
        if (Date.now() - began > this.clock.longestWaitMs) wait = this.clock.firstWaitMs;
      } catch (error) {
        fault = error instanceof ScpiFailure ? error.fault : 'closed';
      }
      this.session?.close();
      this.session = null;
      if (this.stopped) return;
      this.change('failed', fault);
      await this.pause(wait);
      wait = Math.min(wait * 2, this.clock.longestWaitMs);
    }
  }

  private open(): Promise<ScpiSession> {
    return ScpiSession.open(this.setting, this.clock);
  }

  /** Who it is, with an error queue that is empty. */
  private async identify(session: ScpiSession): Promise<string> {
    const identity = (await session.query('*IDN?')).slice(0, 200);
    if (!/^[\x20-\x7e]*[a-z0-9][\x20-\x7e]*$/i.test(identity)) throw new ScpiFailure('garbage');
    for (let i = 0; i < MOST_ERRORS; i++) {
      if (/^[+]?0\b/.test(await session.query('SYST:ERR?'))) break;
    }
    return identity;
  }

  /** Asks at the instrument's rate, whatever an answer takes, until something ends it. */
  private async readings(session: ScpiSession): Promise<StationFault> {
    const driver = DRIVERS[this.setting.kind];
    const everyMs = 1000 / this.setting.readingsPerSecond;
    let next = performance.now();
    let garbage = 0;
    while (!this.stopped) {
      const shown = driver.read(await session.query(driver.poll));
      const bad =
        shown === null || (shown.kind === 'power' && shown.state === 'failed' && shown.why === 'unreadable');
      garbage = bad ? garbage + 1 : 0;
      if (shown) this.show(shown, driver.everyReading);
      if (garbage >= MOST_GARBAGE) throw new ScpiFailure('garbage');
      next = Math.max(next + everyMs, performance.now() - everyMs);
      await this.pause(next - performance.now());
    }
    return 'closed';
  }

  private show(shown: Shown, everyReading: boolean): void {
    if (!everyReading && this.last && sameShown(this.last, shown)) return;
    const event = { ...this.head(), ...shown } as InstrumentEvent;
    this.last = event;
    this.kept.push(event);
    if (this.kept.length > KEPT) this.kept.shift();
    for (const listener of this.listeners) listener(event);
  }

  private change(state: 'connecting' | 'ready' | 'failed', fault: StationFault | null): void {
    const event: InstrumentEvent = {
      ...this.head(),
      kind: 'station',
      state,
      fault,
      identity: this.identity,
    };
    this.state = event;
    // What it showed last is not what it shows: nobody takes a value from an instrument that is away.
    if (state !== 'ready') this.last = null;
    for (const listener of this.listeners) listener(event);
  }

  private head(): { thingId: string; seq: number; at: string } {
    return {
      thingId: this.setting.thingId,
      seq: this.clock.nextSeq(),
      at: this.clock.now().toISOString(),
    };
  }

  private pause(ms: number): Promise<void> {
    if (ms <= 0) return new Promise((resolve) => setImmediate(resolve));
    return new Promise((resolve) => {
      const timer = setTimeout(resolve, ms);
      this.wake = () => {
        clearTimeout(timer);
        resolve();
      };
    });
  }
}

function sameShown(last: InstrumentEvent, shown: Shown): boolean {
  const { thingId: _, seq: __, at: ___, ...before } = last;
  return JSON.stringify(before) === JSON.stringify(shown);
}
