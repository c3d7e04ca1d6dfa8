import type { Span } from './types.ts';

/** What a trainee, a station, an oven or an instructor is busy with: spans in order, none over another. */
export class Timeline {
  readonly busy: Span[] = [];

  /** The first minute from `from` on at which it is free for so long. */
  freeFrom(from: number, minutes: number): number {
    let at = from;
    for (const span of this.busy) {
      if (span.to <= at) continue;
      if (span.from >= at + minutes) break;
      at = span.to;
    }
    return at;
  }
  /** Busy from and to, also where it is so already: what is fixed or away asks nobody. */
  takeOver(from: number, to: number): void {
    if (to <= from) return;
    const over = this.busy.filter((s) => s.from <= to && s.to >= from);
    const rest = this.busy.filter((s) => !over.includes(s));
    const whole = {
      from: Math.min(from, ...over.map((s) => s.from)),
      to: Math.max(to, ...over.map((s) => s.to)),
    };
    this.busy.splice(0, this.busy.length, ...rest, whole);
    this.busy.sort((a, b) => a.from - b.from);
  }
  take(from: number, to: number): void {
    if (to <= from) return;
    const at = this.busy.findIndex((s) => s.from >= to);
    if (at < 0) this.busy.push({ from, to });
    else this.busy.splice(at, 0, { from, to });
  }
}

/** The first minute from `from` on at which so many minutes of work fit into the hours without a break; null after the last. */
export function withinHours(hours: readonly Span[], from: number, minutes: number): number | null {
  for (const span of hours) {
    const at = Math.max(from, span.from);
    if (at + minutes <= span.to) return at;
  }
  return null;
}
