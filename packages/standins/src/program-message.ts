/** An error of a device as SCPI 1999 (21.8) numbers and names it. */
export class DeviceError extends Error {
  override readonly name = 'DeviceError';
  constructor(readonly code: keyof typeof DEVICE_ERRORS) {
    super(`${code},"${DEVICE_ERRORS[code]}"`);
  }
}

export const DEVICE_ERRORS = {
  '-101': 'Invalid character',
  '-102': 'Syntax error',
  '-104': 'Data type error',
  '-108': 'Parameter not allowed',
  '-109': 'Missing parameter',
  '-112': 'Program mnemonic too long',
  '-113': 'Undefined header',
  '-131': 'Invalid suffix',
  '-138': 'Suffix not allowed',
  '-151': 'Invalid string data',
  '-222': 'Data out of range',
  '-224': 'Illegal parameter value',
  '-230': 'Data corrupt or stale',
  '-350': 'Queue overflow',
} as const;

/** One program message unit: a header in full from the root, and what stands behind it. */
export interface MessageUnit {
  /** Without the leading colon, in capitals; common commands keep their star. */
  readonly header: string;
  readonly asks: boolean;
  readonly parameters: readonly string[];
}

const LONGEST_MNEMONIC = 12;

/**
 * The units of a program message, in order, each as a unit or as the error that it is (IEEE 488.2, chapter 7). A header
 * without a leading colon goes on from the path of the one before it; common commands leave the path as it is (SCPI 1999,
 * 6.2.4). Separators inside of quotes are text.
 */
export function unitsOf(message: string): (MessageUnit | DeviceError)[] {
  const texts = apart(message, ';');
  if (texts === null) return [new DeviceError('-151')];
  let path = '';
  return texts.flatMap((text): (MessageUnit | DeviceError)[] => {
    const unit = text.trim();
    if (unit === '') return [];
    const [given = ''] = unit.split(/\s/, 1);
    if (!/^[\x21-\x7e]+$/.test(given)) return [new DeviceError('-101')];
    const asks = given.endsWith('?');
    const name = (asks ? given.slice(0, -1) : given).toUpperCase();
    const parameters = apart(unit.slice(given.length), ',');
    if (parameters === null) return [new DeviceError('-151')];
    const trimmed = parameters.map((p) => p.trim());
    const listed = trimmed.length === 1 && trimmed[0] === '' ? [] : trimmed;
    if (listed.includes('')) return [new DeviceError('-102')];
    if (name.startsWith('*')) return [{ header: name, asks, parameters: listed }];
    const header = name.startsWith(':') ? name.slice(1) : path === '' ? name : `${path}:${name}`;
    const words = header.split(':');
    if (words.some((w) => w.length > LONGEST_MNEMONIC)) return [new DeviceError('-112')];
    path = words.slice(0, -1).join(':');
    return [{ header, asks, parameters: listed }];
  });
}

/** Text between separators that stand outside of quotes; null where a quote is never closed. */
function apart(text: string, separator: string): string[] | null {
  const parts = [''];
  let quote = '';
  for (const sign of text) {
    if (quote === '' && sign === separator) {
      parts.push('');
      continue;
    }
    if (quote === '' && (sign === '"' || sign === "'")) quote = sign;
    else if (sign === quote) quote = '';
    parts[parts.length - 1] += sign;
  }
  return quote === '' ? parts : null;
}

/** Whether a header is a pattern's, in long or short form; nodes in brackets may be left out: `FETCh[:SCALar]:POWer`. */
export function headerIs(pattern: string, header: string): boolean {
  const nodes = [...pattern.matchAll(/(\[)?:?([A-Za-z*]+)\]?/g)].map(([, open, word]) => ({
    optional: open !== undefined,
    long: word!.toUpperCase(),
    short: word!.replace(/[a-z]/g, ''),
  }));
  const given = header.split(':');
  const fits = (node: number, at: number): boolean => {
    const wanted = nodes[node];
    if (!wanted) return at === given.length;
    const here = given[at] === wanted.long || given[at] === wanted.short;
    return (here && fits(node + 1, at + 1)) || (wanted.optional && fits(node + 1, at));
  };
  return fits(0, 0);
}
