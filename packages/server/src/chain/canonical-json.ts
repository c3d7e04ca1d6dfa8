/**
 * JSON with the keys of every object in order and no white space, so that equal content has one text and one
 * digest (the ordering of RFC 8785; numbers as ECMAScript prints them, which is the form that it asks for).
 */
export function canonicalJson(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map((x) => canonicalJson(x ?? null)).join(',')}]`;
  if (value !== null && typeof value === 'object') {
    const parts: string[] = [];
    for (const key of Object.keys(value).sort()) {
      const inner = (value as Readonly<Record<string, unknown>>)[key];
      if (inner !== undefined) parts.push(quotedKey(key) + canonicalJson(inner));
    }
    return `{${parts.join(',')}}`;
  }
  return JSON.stringify(value);
}

/** The canonical JSON of an object with these keys of it alone, which are in order. */
export function canonicalRow<K extends string>(
  keys: readonly K[],
  row: Readonly<Record<K, unknown>>,
): string {
  const parts: string[] = [];
  for (const key of keys) {
    if (row[key] !== undefined) parts.push(quotedKey(key) + canonicalJson(row[key]));
  }
  return `{${parts.join(',')}}`;
}

/** Keys are few and come again with every row: `"key":` is made once for each. */
const quotedKeys = new Map<string, string>();
const MOST_KEYS = 5000;

function quotedKey(key: string): string {
  const known = quotedKeys.get(key);
  if (known !== undefined) return known;
  const made = `${JSON.stringify(key)}:`;
  if (quotedKeys.size < MOST_KEYS) quotedKeys.set(key, made);
  return made;
}
