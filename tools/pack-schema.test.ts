import { MethodPack, packJsonSchema } from '@clear-mark/contract/pack';
import { SHIPPED_METHODS } from '@clear-mark/methods';
import { packText } from '@clear-mark/server';
import { Ajv2020 } from 'ajv/dist/2020.js';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

/** JSON Schema, draft 2020-12, read by a program that knows nothing of the one that the schema was made from. */
const ajv = new Ajv2020({ strict: false, unicodeRegExp: true });
const bySchema = ajv.compile(packJsonSchema());
const byServer = (pack: unknown): boolean => MethodPack.safeParse(pack).success;

const HEAD = { title: 'Ours', author: 'The school', licence: 'Use it.', language: 'en' };
const SOURCE = { kind: 'house', fromMemory: false, words: 'our book' } as const;
const drill = {
  id: '01900000-0000-7000-8000-000000000001',
  version: 1,
  table: {
    kind: 'drill',
    title: 'Twenty strips',
    content: {
      title: 'Twenty strips',
      how: 'One after the other.',
      skill: 'own:Closure_work',
      criterion: null,
      minutesEach: 2,
      consumables: [],
      source: SOURCE,
    },
  },
} as const;
const library = packText({ ...HEAD, methods: SHIPPED_METHODS });
const small = packText({ ...HEAD, methods: SHIPPED_METHODS.slice(0, 1), tables: [drill as never] });

/** Every place of a value, as a path of keys. */
function placesOf(value: unknown, path: readonly string[] = []): string[][] {
  if (value === null || typeof value !== 'object') return [[...path]];
  const inner = Object.entries(value).flatMap(([key, v]) => placesOf(v, [...path, key]));
  return path.length === 0 ? inner : [[...path], ...inner];
}
/** The value with what stands at a place changed. */
function changed(
  value: unknown,
  path: readonly string[],
  change: (at: Record<string, unknown>, key: string) => void,
): unknown {
  const copy = structuredClone(value) as Record<string, unknown>;
  let at = copy;
  for (const key of path.slice(0, -1)) at = at[key] as Record<string, unknown>;
  change(at, path[path.length - 1]!);
  return copy;
}

describe('the published schema of a pack', () => {
  it('takes the whole shipped library, and a pack with a skill and a drill of a school', () => {
    for (const text of [library, small]) {
      const valid = bySchema(JSON.parse(text));
      expect(bySchema.errors ?? []).toEqual([]);
      expect(valid).toBe(true);
    }
  });
  it('refuses whatever the server refuses for its shape: a key that is gone, unknown, or of another kind', () => {
    const pack: unknown = JSON.parse(small);
    const places = placesOf(pack).filter((path) => !path.some((key) => /^\d+$/.test(key) && Number(key) > 1));
    fc.assert(
      fc.property(fc.constantFrom(...places), fc.constantFrom('gone', 'unknown', 'kind'), (path, how) => {
        const broken = changed(pack, path, (at, key) => {
          if (how === 'kind') at[key] = typeof at[key] === 'boolean' ? 'x' : false;
          else if (how === 'gone' && !Array.isArray(at)) delete at[key];
          else if (how === 'unknown' && !Array.isArray(at)) at['nobody-knows'] = 1;
        });
        // What only a rule between two fields can tell, the server alone says.
        if (byServer(broken)) expect(bySchema(broken)).toBe(true);
        else expect(bySchema(broken)).toBe(false);
      }),
      { numRuns: 300 },
    );
  });
});
