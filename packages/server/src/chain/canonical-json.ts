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
      if (inner !== undefined) parts.push(`${JSON.stringify(key)}:${canonicalJson(inner)}`);
    }
    return `{${parts.join(',')}}`;
  }
  return JSON.stringify(value);
}
