/** A list with one of its items at another place; the same list where that is none. */
export function moved<T>(list: readonly T[], from: number, to: number): readonly T[] {
  if (from === to || list[from] === undefined || list[to] === undefined) return list;
  const next = [...list];
  next.splice(to, 0, ...next.splice(from, 1));
  return next;
}
