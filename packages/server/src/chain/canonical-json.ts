/**
 * JSON with the keys of every object in order and no white space, so that equal content has one text and one
 * digest (the ordering of RFC 8785; numbers as ECMAScript prints them, which is the form that it asks for).
 */
export function canonicalJson(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map((x) => canonicalJson(x ?? null)).join(',')}]`;
  if (value !== null && typeof value === 'object') {
    const parts = Object.entries(value)
      .filter(([, x]) => x !== undefined)
      .sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0))
      .map(([key, x]) => `${JSON.stringify(key)}:${canonicalJson(x)}`);
    return `{${parts.join(',')}}`;
  }
  return JSON.stringify(value);
}
