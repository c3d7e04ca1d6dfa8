/**
 * The elements of a response message: separated by `;` between queries and `,` within one (IEEE 488.2, 8.4), with
 * strings unquoted and blocks reduced to their content. Example: `1.31E-06;DBM;-2.1E+01` has three.
 */
export function responseElements(message: string): readonly string[] {
  const elements: string[] = [];
  let at = 0;
  let current = '';
  while (at < message.length) {
    const c = message[at]!;
    if (c === '"' || c === "'") {
      const end = message.indexOf(c, at + 1);
      if (end < 0) return [...elements, current + message.slice(at)];
      current += message.slice(at + 1, end);
      at = end + 1;
    } else if (c === '#' && current === '' && /[1-9]/.test(message[at + 1] ?? '')) {
      const count = Number(message[at + 1]);
      const length = Number(message.slice(at + 2, at + 2 + count));
      current = message.slice(at + 2 + count, at + 2 + count + length);
      at += 2 + count + length;
    } else if (c === ';' || c === ',') {
      elements.push(current.trim());
      current = '';
      at += 1;
    } else {
      current += c;
      at += 1;
    }
  }
  return [...elements, current.trim()];
}

/** A number as instruments send it, or why it is none. */
export type SentNumber =
  | { readonly state: 'number'; readonly value: number; readonly text: string }
  | { readonly state: 'not_a_number' | 'over_range' | 'under_range' | 'unreadable' };

/**
 * Reads an NR1, NR2 or NR3 number. 9.91E+37 stands for not a number and +-9.9E+37 for beyond the range (SCPI 1999, 7.2.1);
 * the letters NAN and INF are understood too. Everything else is unreadable; nothing is ever taken from a part of it.
 * Example: `-2.345E+01` is -23.45.
 */
export function sentNumber(text: string): SentNumber {
  const word = text.trim().toUpperCase();
  if (word === 'NAN') return { state: 'not_a_number' };
  if (/^\+?INF(INITY)?$/.test(word)) return { state: 'over_range' };
  if (/^-(INF(INITY)?|NINF)$/.test(word) || word === 'NINF') return { state: 'under_range' };
  if (!/^[+-]?(\d+\.?\d*|\.\d+)(E[+-]?\d{1,3})?$/.test(word)) return { state: 'unreadable' };
  const value = Number(word);
  if (Math.abs(value - 9.91e37) < 1e33) return { state: 'not_a_number' };
  if (value >= 9.9e37) return { state: 'over_range' };
  if (value <= -9.9e37) return { state: 'under_range' };
  return { state: 'number', value, text: plainDecimal(value) };
}

/** Decimal text without an exponent, at most nine decimals: what a person could have typed. */
function plainDecimal(value: number): string {
  const text = value.toFixed(9).replace(/0+$/, '').replace(/\.$/, '');
  return text === '-0' ? '0' : text;
}
