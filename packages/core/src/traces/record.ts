import { DomainError } from '../domain-error.ts';

/** What can be wrong with a block. */
export const BLOCK_FAULTS = [
  'count',
  'cut',
  'index',
  'length',
  'missing',
  'name',
  'outside',
  'points',
  'pulse',
  'scale',
  'spacing',
  'text',
  'twice',
] as const;
export type BlockFault = (typeof BLOCK_FAULTS)[number];

/** Kinds of a field: a text that ends with a zero byte, a text of so many characters, whole numbers with the low byte first. */
export type FieldKind = 'text' | 'chars2' | 'chars6' | 'i16' | 'u16' | 'i32' | 'u32';
/** A field, and the revision of the block that it came with. */
export type FieldRow = readonly [name: string, kind: FieldKind, since?: 2];
type ValueOf<K> = K extends 'text' | 'chars2' | 'chars6' ? string : number;
export type RecordOf<T extends readonly FieldRow[]> = {
  readonly [R in T[number] as R[0]]: ValueOf<R[1]>;
};

const BYTES: Readonly<Record<Exclude<FieldKind, 'text'>, number>> = {
  chars2: 2,
  chars6: 6,
  i16: 2,
  u16: 2,
  i32: 4,
  u32: 4,
};

/** The content of a block, read from its beginning to its end and never beyond. Error: `trace.bad_block` with its name. */
export class BlockReader {
  private at = 0;
  private readonly view: DataView;

  constructor(
    private readonly block: string,
    private readonly bytes: Uint8Array,
    private readonly revision: 1 | 2,
  ) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  get left(): number {
    return this.bytes.length - this.at;
  }
  bad(why: BlockFault): DomainError {
    return new DomainError('trace.bad_block', { block: this.block, why });
  }

  number(kind: 'i16' | 'u16' | 'i32' | 'u32'): number {
    const at = this.take(BYTES[kind]);
    switch (kind) {
      case 'i16':
        return this.view.getInt16(at, true);
      case 'u16':
        return this.view.getUint16(at, true);
      case 'i32':
        return this.view.getInt32(at, true);
      case 'u32':
        return this.view.getUint32(at, true);
    }
  }
  numbers(kind: 'i16' | 'u16' | 'i32' | 'u32', count: number): number[] {
    if (count * BYTES[kind] > this.left) throw this.bad('cut');
    return Array.from({ length: count }, () => this.number(kind));
  }
  text(): string {
    const end = this.bytes.indexOf(0, this.at);
    if (end < 0) throw this.bad('text');
    const found = latin1(this.bytes.subarray(this.at, end));
    this.at = end + 1;
    return found;
  }
  chars(count: number): string {
    const at = this.take(count);
    return latin1(this.bytes.subarray(at, at + count));
  }
  /** Bytes as they are. */
  raw(count: number): Uint8Array {
    const at = this.take(count);
    return this.bytes.subarray(at, at + count);
  }
  /** A record by its rows; what an older revision does not have is 0, or an empty text. */
  record<const T extends readonly FieldRow[]>(rows: T): RecordOf<T> {
    const found: Record<string, string | number> = {};
    for (const [name, kind, since = 1] of rows) {
      found[name] = since > this.revision ? (isText(kind) ? '' : 0) : this.field(kind);
    }
    return found as RecordOf<T>;
  }

  private field(kind: FieldKind): string | number {
    if (kind === 'text') return this.text();
    if (kind === 'chars2' || kind === 'chars6') return this.chars(BYTES[kind]);
    return this.number(kind);
  }
  private take(count: number): number {
    if (count > this.left) throw this.bad('cut');
    const { at } = this;
    this.at += count;
    return at;
  }
}

/** Puts a block together; the other way round of `BlockReader`. Error: `trace.bad_value` of a number that does not fit. */
export class BlockWriter {
  private readonly parts: Uint8Array[] = [];

  constructor(private readonly revision: 1 | 2) {}

  number(kind: 'i16' | 'u16' | 'i32' | 'u32', value: number): this {
    const bytes = new Uint8Array(BYTES[kind]);
    const view = new DataView(bytes.buffer);
    const signed = kind.startsWith('i');
    const span = 2 ** (8 * bytes.length);
    const least = signed ? -span / 2 : 0;
    if (!Number.isInteger(value) || value < least || value >= least + span)
      throw new DomainError('trace.bad_value', { value: String(value) });
    if (bytes.length === 2) view.setInt16(0, value, true);
    else view.setInt32(0, value, true);
    return this.raw(bytes);
  }
  numbers(kind: 'i16' | 'u16' | 'i32' | 'u32', values: readonly number[]): this {
    for (const value of values) this.number(kind, value);
    return this;
  }
  text(value: string): this {
    return this.raw(fromLatin1(`${value}\0`));
  }
  chars(value: string, count: number): this {
    return this.raw(fromLatin1(value.padEnd(count, ' ').slice(0, count)));
  }
  raw(bytes: Uint8Array): this {
    this.parts.push(bytes);
    return this;
  }
  record<const T extends readonly FieldRow[]>(rows: T, values: RecordOf<T>): this {
    const given = values as Readonly<Record<string, string | number>>;
    for (const [name, kind, since = 1] of rows) {
      if (since > this.revision) continue;
      const value = given[name]!;
      if (kind === 'text') this.text(value as string);
      else if (kind === 'chars2' || kind === 'chars6') this.chars(value as string, BYTES[kind]);
      else this.number(kind, value as number);
    }
    return this;
  }
  bytes(): Uint8Array {
    return joined(this.parts);
  }
}

export function joined(parts: readonly Uint8Array[]): Uint8Array {
  const all = new Uint8Array(parts.reduce((sum, p) => sum + p.length, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
}

const isText = (kind: FieldKind): boolean => kind === 'text' || kind.startsWith('chars');

const latin1 = (bytes: Uint8Array): string => {
  let text = '';
  for (const byte of bytes) text += String.fromCharCode(byte);
  return text;
};
/** Characters that the file has no byte for become question marks; a zero ends a text and can only stand there. */
export const fromLatin1 = (text: string): Uint8Array =>
  Uint8Array.from(text, (c) => (c.charCodeAt(0) <= 0xff ? c.charCodeAt(0) : 0x3f));
