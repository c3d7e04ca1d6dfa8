/** What the bytes of an instrument came to: whole response messages, or the reason why they cannot be read. */
export type Framed =
  | { readonly messages: readonly string[]; readonly failed: null }
  | { readonly messages: readonly string[]; readonly failed: 'line_too_long' | 'bad_block' };

export interface Framer {
  /** Takes the next bytes as Latin-1 text. After a failure nothing more is taken. */
  push(text: string): Framed;
  /** True where a message has begun and not ended. */
  partial(): boolean;
}

/**
 * Cuts a byte stream into response messages (IEEE 488.2-1992, 8.7): each ends with a line feed, a carriage return before
 * it is dropped; a line feed inside a quoted string or a definite block (#, count of digits, length, bytes) does not end
 * it; an indefinite block (#0) ends with the message. A message longer than `maxLength` characters fails the stream,
 * so that an instrument that never ends its line costs bounded memory.
 */
export function createFramer(maxLength: number): Framer {
  let kept = '';
  /** How far `kept` has been looked at, inside which quote, and how long a block still runs. */
  let seen = 0;
  let quote: string | null = null;
  let failed: 'line_too_long' | 'bad_block' | null = null;

  const push = (text: string): Framed => {
    const messages: string[] = [];
    if (failed) return { messages, failed };
    kept += text;
    let start = 0;
    scan: for (; seen < kept.length; seen++) {
      const c = kept[seen]!;
      if (quote !== null) {
        if (c === quote) quote = null;
      } else if (c === '"' || c === "'") quote = c;
      else if (c === '#') {
        const end = blockEnd(kept, seen);
        if (end === 'bad') return fail('bad_block', messages);
        if (end === 'more') break scan;
        seen = end - 1;
      } else if (c === '\n') {
        const line = kept.slice(start, seen);
        messages.push(line.endsWith('\r') ? line.slice(0, -1) : line);
        start = seen + 1;
      }
    }
    kept = kept.slice(start);
    seen -= start;
    if (kept.length > maxLength) return fail('line_too_long', messages);
    return { messages, failed };
  };
  const fail = (why: 'line_too_long' | 'bad_block', messages: string[]): Framed => {
    failed = why;
    kept = '';
    return { messages, failed };
  };
  return { push, partial: () => kept.length > 0 };
}

/** Index after the block that begins at `at`; an indefinite one ends where the message does. */
function blockEnd(text: string, at: number): number | 'more' | 'bad' {
  const count = text[at + 1];
  if (count === undefined) return 'more';
  if (count === '0') return at + 2;
  if (!/[1-9]/.test(count)) return 'bad';
  const digits = text.slice(at + 2, at + 2 + Number(count));
  if (!/^\d*$/.test(digits)) return 'bad';
  if (digits.length < Number(count)) return 'more';
  const end = at + 2 + Number(count) + Number(digits);
  return end <= text.length ? end : 'more';
}
