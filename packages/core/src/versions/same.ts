/**
 * Whether two pieces of plain data say the same: keys in any order, a key that is undefined as one that is not there. Input:
 * JSON data. Example: `{ a: 1, b: undefined }` and `{ a: 1 }` are the same.
 */
export function isSame(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  if (Array.isArray(a) && Array.isArray(b)) {
    return a.length === b.length && a.every((v, i) => isSame(v, b[i]));
  }
  const one = a as Record<string, unknown>;
  const other = b as Record<string, unknown>;
  return [...new Set([...Object.keys(one), ...Object.keys(other)])].every((k) => isSame(one[k], other[k]));
}
