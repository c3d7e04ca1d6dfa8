/** How far a device's clock may be ahead of the server's before its time is held back. */
export const AHEAD_MS = 60_000;

export interface Held {
  /** The instant that counts. */
  readonly at: string;
  /** What was claimed, where that could not be; null where it counts as it is. */
  readonly claimed: string | null;
}

/**
 * An instant as a device gives it, held between the day on which the class began and a minute after the server's now:
 * standings follow times, so a piece dated years ago or ahead would move them.
 */
export function heldBetween(at: string, earliest: Date, now: Date): Held {
  const said = Date.parse(at);
  const held = Math.min(Math.max(said, earliest.getTime()), now.getTime() + AHEAD_MS);
  return held === said ? { at, claimed: null } : { at: new Date(held).toISOString(), claimed: at };
}

/** Whether an instant inside a value can be: it is refused where it cannot, since a value is never rewritten. */
export const canBe = (at: string, earliest: Date, now: Date): boolean =>
  heldBetween(at, earliest, now).claimed === null;
