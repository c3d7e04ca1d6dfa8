/**
 * JSON with the keys of every object in order and no white space, so that equal content has one text and one
 * digest (the ordering of RFC 8785; numbers as ECMAScript prints them, which is the form that it asks for).
 */
export function canonicalJson(value: unknown): string {
  switch (typeof value) {
    case 'string':
      return quotedText(value);
    case 'number':
      return Number.isFinite(value) ? String(value) : 'null';
    case 'object':
      break;
    default:
      return JSON.stringify(value);
  }
  if (value === null) return 'null';
  if (Array.isArray(value)) {
    let items = '';
    for (const item of value) items += `${items === '' ? '' : ','}${canonicalJson(item ?? null)}`;
    return `[${items}]`;
  }
  return canonicalRow(inOrder(Object.keys(value)), value as Readonly<Record<string, unknown>>);
}

/** Nothing in it that JSON escapes. */
const PLAIN = /^[\x20\x21\x23-\x5b\x5d-\x7e]*$/;
const MOST_LOOKED_THROUGH = 200;
const quotedText = (text: string): string =>
  text.length < MOST_LOOKED_THROUGH && PLAIN.test(text) ? `"${text}"` : JSON.stringify(text);

/** By code units, as `sort` does it: most objects have a handful of keys, for which this takes a fraction of its time. */
function inOrder(keys: string[]): readonly string[] {
  const HANDFUL = 20;
  if (keys.length > HANDFUL) return keys.sort();
  for (let i = 1; i < keys.length; i++) {
    const key = keys[i]!;
    let place = i;
    for (; place > 0 && keys[place - 1]! > key; place--) keys[place] = keys[place - 1]!;
    keys[place] = key;
  }
  return keys;
}

/** The canonical JSON of an object with these keys of it alone, which are in order. */
export function canonicalRow<K extends string>(
  keys: readonly K[],
  row: Readonly<Record<K, unknown>>,
): string {
  let parts = '';
  for (const key of keys) {
    if (row[key] === undefined) continue;
    parts += `${parts === '' ? '' : ','}${quotedKey(key)}${canonicalJson(row[key])}`;
  }
  return `{${parts}}`;
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
