/** A seeded source of chance: a failing run is run again by its seed. (mulberry32, public domain.) */
export function rngFrom(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** What of a JSON Schema is looked at. */
export interface Shape {
  readonly type?: string;
  readonly const?: unknown;
  readonly enum?: readonly unknown[];
  readonly anyOf?: readonly Shape[];
  readonly oneOf?: readonly Shape[];
  readonly allOf?: readonly Shape[];
  readonly properties?: Readonly<Record<string, Shape>>;
  readonly required?: readonly string[];
  readonly propertyNames?: Shape;
  readonly additionalProperties?: Shape | boolean;
  readonly items?: Shape | boolean;
  readonly prefixItems?: readonly Shape[];
  readonly minItems?: number;
  readonly maxItems?: number;
  readonly format?: string;
  readonly pattern?: string;
  readonly minLength?: number;
  readonly maxLength?: number;
  readonly minimum?: number;
  readonly exclusiveMinimum?: number;
  readonly maximum?: number;
  readonly $ref?: string;
}

/** What a client should never send, and what somebody once will. */
export const NASTY: readonly unknown[] = [
  '\u0000',
  'a\u0000b',
  '\ud800',
  'x\udfff',
  '\u202e',
  '',
  ' ',
  '0',
  '-1',
  'null',
  '%00',
  "'; drop table people; --",
  '0000-01-01',
  '9999-12-31',
  '2026-02-30',
  '0000-01-01T00:00:00Z',
  '9999-12-31T23:59:59Z',
  '2026-13-01T00:00:00Z',
  '-000001-01-01T00:00:00Z',
  '+275760-09-13T00:00:00Z',
  '1990-01-01T00:00:00Z',
  'NaN',
  'Infinity',
  '1e999',
  0,
  -1,
  1,
  2147483647,
  2147483648,
  -2147483649,
  9007199254740992,
  1e308,
  -1e308,
  5e-324,
  0.1,
  null,
  true,
  false,
  [],
  {},
  [[[[]]]],
  [null],
  { toString: 1 },
  { length: -1 },
  { __proto__: null, constructor: {} },
  'x'.repeat(5000),
  '\ud83d\ude00'.repeat(300),
  Array.from({ length: 300 }, () => 0),
];

export class Maker {
  constructor(
    private readonly rng: () => number,
    /** Ids that exist, so that a request gets past the first door. */
    private readonly ids: readonly string[],
  ) {}

  pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.rng() * list.length)]!;
  }
  chance(p: number): boolean {
    return this.rng() < p;
  }
  whole(from: number, to: number): number {
    return from + Math.floor(this.rng() * (to - from + 1));
  }
  uuid(): string {
    const hex = (n: number): string =>
      Array.from({ length: n }, () => this.pick([...'0123456789abcdef'])).join('');
    return `${hex(8)}-${hex(4)}-7${hex(3)}-8${hex(3)}-${hex(12)}`;
  }
  id(): string {
    return this.chance(0.7) && this.ids.length > 0 ? this.pick(this.ids) : this.uuid();
  }

  /** A value that fits the schema, as far as a schema tells. */
  fitting(shape: Shape | boolean | undefined, depth = 0): unknown {
    if (shape === undefined || typeof shape === 'boolean') return this.pick(NASTY);
    if (shape.const !== undefined) return shape.const;
    if (shape.enum) return this.pick(shape.enum);
    const choices = shape.anyOf ?? shape.oneOf;
    if (choices) return this.fitting(this.pick(choices), depth + 1);
    if (shape.allOf) return this.fitting(shape.allOf[0], depth + 1);
    switch (shape.type) {
      case 'object':
        return this.object(shape, depth);
      case 'array':
        return this.array(shape, depth);
      case 'string':
        return this.text(shape);
      case 'integer':
      case 'number':
        return this.number(shape);
      case 'boolean':
        return this.chance(0.5);
      case 'null':
        return null;
      default:
        return this.pick(NASTY);
    }
  }

  /** The same value with something in it that does not fit: a leaf, a missing key, another type. */
  bent(value: unknown): unknown {
    if (value === null || typeof value !== 'object' || this.chance(0.15)) return this.pick(NASTY);
    if (Array.isArray(value)) {
      if (value.length === 0) return [this.pick(NASTY)];
      const at = this.whole(0, value.length - 1);
      return value.map((item: unknown, i) => (i === at ? this.bent(item) : item));
    }
    const keys = Object.keys(value);
    if (keys.length === 0 || this.chance(0.1))
      return { ...value, [JSON.stringify(this.pick(NASTY)).slice(0, 60)]: this.pick(NASTY) };
    const key = this.pick(keys);
    const copy: Record<string, unknown> = { ...value };
    if (this.chance(0.1)) delete copy[key];
    else copy[key] = this.bent(copy[key]);
    return copy;
  }

  private object(shape: Shape, depth: number): unknown {
    const made: Record<string, unknown> = {};
    for (const [key, inner] of Object.entries(shape.properties ?? {})) {
      const needed = shape.required?.includes(key) ?? false;
      if (needed || this.chance(depth > 4 ? 0.1 : 0.6)) made[key] = this.fitting(inner, depth + 1);
    }
    if (!shape.properties && typeof shape.additionalProperties === 'object') {
      for (let i = this.whole(0, 3); i > 0; i--) {
        made[String(this.fitting(shape.propertyNames ?? { type: 'string' }, depth + 1))] = this.fitting(
          shape.additionalProperties,
          depth + 1,
        );
      }
    }
    return made;
  }
  private array(shape: Shape, depth: number): unknown {
    if (shape.prefixItems) return shape.prefixItems.map((s) => this.fitting(s, depth + 1));
    const least = shape.minItems ?? 0;
    const most = Math.min(shape.maxItems ?? least + 3, least + (depth > 4 ? 1 : 3));
    return Array.from({ length: this.whole(least, most) }, () => this.fitting(shape.items, depth + 1));
  }
  private text(shape: Shape): string {
    if (shape.format === 'uuid') return this.id();
    const day = `20${this.whole(20, 29)}-0${this.whole(1, 9)}-1${this.whole(0, 9)}`;
    if (shape.format === 'date') return day;
    if (shape.format === 'date-time') {
      return this.chance(0.7) ? new Date().toISOString() : `${day}T1${this.whole(0, 9)}:00:00Z`;
    }
    if (shape.pattern?.includes('0-9a-f]{64}')) return 'ab'.repeat(32);
    const least = shape.minLength ?? 0;
    const most = Math.min(shape.maxLength ?? 30, least + 12);
    const letters = ['a', 'B', '7', ' ', '-', '.', 'é', '漢', "'", '"', '\\', '%', '\n', ':', '/'];
    return Array.from({ length: this.whole(least, most) }, () => this.pick(letters)).join('');
  }
  private number(shape: Shape): number {
    const low = shape.minimum ?? shape.exclusiveMinimum ?? -1000;
    const high = Math.min(shape.maximum ?? 1000, 2 ** 53);
    if (shape.type === 'integer')
      return this.whole(Math.ceil(Math.max(low, -(2 ** 53))), Math.max(low, Math.min(high, low + 2000)));
    return low + this.rng() * (high - low);
  }
}
