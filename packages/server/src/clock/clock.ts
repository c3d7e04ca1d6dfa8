/** Differences below this are the way over the network, not a wrong clock. */
const TOLERATED_MS = 2000;
/** What fits the column, and about 24 days: a clock further off is taken as that far off. */
const MOST_MS = 2_000_000_000;

/** How far the server is ahead of a device, in ms; 0 when within two seconds. */
export function clockOffsetMs(sentAt: string, now: Date): number {
  const offset = now.getTime() - Date.parse(sentAt);
  if (Math.abs(offset) <= TOLERATED_MS) return 0;
  return Math.max(-MOST_MS, Math.min(MOST_MS, offset));
}

/** A device's instant on the server's clock. */
export function corrected(at: string, offsetMs: number): string {
  return offsetMs === 0 ? at : new Date(Date.parse(at) + offsetMs).toISOString();
}
