/** What sends light back: the port, a connector, an end. */
export interface Reflector {
  readonly positionM: number;
  /** Null where it was not measured. */
  readonly reflectanceDb: number | null;
}

/** How far the reflectance of a ghost may be from the sum of the three that make it, dB: fiber and losses on the way. */
const OFF_SUM_DB = 8;

/**
 * Whether a reflection can be a ghost: light that was sent back three times, at `a`, at `b` nearer to the port, and at `c`, arrives as if
 * from a - b + c (common practice; distances of a two-mirror echo). `b` may be the port. Where all three reflectances are known, their sum
 * has to fit the one that is seen.
 */
export function canBeGhost(seen: Reflector, others: readonly Reflector[], toleranceM: number): boolean {
  const before = others.filter((r) => r.positionM < seen.positionM - toleranceM);
  return before.some((b) =>
    before.some(
      (a) =>
        a.positionM > b.positionM &&
        before.some(
          (c) =>
            c.positionM > b.positionM &&
            Math.abs(a.positionM - b.positionM + c.positionM - seen.positionM) <= toleranceM &&
            fits(seen, [a, b, c]),
        ),
    ),
  );
}

function fits(seen: Reflector, three: readonly Reflector[]): boolean {
  if (seen.reflectanceDb === null) return true;
  let sum = 0;
  for (const { reflectanceDb } of three) {
    if (reflectanceDb === null) return true;
    sum += reflectanceDb;
  }
  return seen.reflectanceDb <= sum + OFF_SUM_DB;
}
