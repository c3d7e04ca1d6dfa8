import { z } from 'zod';
import { Id, MOST_WHOLE } from './common.ts';
import { SchoolTableContent } from './school-tables.ts';
import { MethodSheetShape } from './sheet.ts';

export const PACK_FORMAT = 'clear-mark/method-pack';
export const PACK_VERSION = 1;

const Line = z.string().trim().min(1).max(200);

/** A version of a school's own table. */
export const PackTable = z.strictObject({
  id: Id,
  version: z.number().int().min(1).max(MOST_WHOLE),
  table: SchoolTableContent,
});
export type PackTable = z.infer<typeof PackTable>;

/**
 * Methods as one file, to be taken to another school: who wrote them, what may be done with them, in which language, and a
 * digest that tells whether the file is as it was written (SHA-256 of the canonical JSON of all but the digest itself).
 */
export const MethodPack = z.strictObject({
  format: z.literal(PACK_FORMAT),
  schemaVersion: z.literal(PACK_VERSION),
  title: Line,
  author: Line,
  licence: z.string().trim().min(1).max(5000),
  /** As in BCP 47: `en`, `pt-BR`. */
  language: z.string().regex(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/),
  methods: z.array(MethodSheetShape).min(1).max(500),
  /** Loss tables, drills, policies and zones that go with them. */
  tables: z.array(PackTable).min(1).max(500).optional(),
  digest: z.string().regex(/^[0-9a-f]{64}$/),
});
export type MethodPack = z.infer<typeof MethodPack>;

/** Markup in a text: nobody needs it there, and some program might run it. A plain "less than" is none. */
const MARKUP = /<\s*[/!?]?\s*[a-z][^>]*>?|javascript:/i;

/** Where in a pack a text has markup in it, as a path; null where none has. */
export function markupAt(value: unknown): string | null {
  if (typeof value === 'string') return MARKUP.test(value) ? '' : null;
  if (value === null || typeof value !== 'object') return null;
  for (const [key, inner] of Object.entries(value)) {
    const found = markupAt(inner);
    if (found !== null) return found === '' ? key : `${key}.${found}`;
  }
  return null;
}

/** The published JSON Schema of a pack (draft 2020-12). */
export const packJsonSchema = (): Record<string, unknown> => ({
  $id: 'clear-mark/method-pack.schema.json',
  title: 'Method pack of Clear Mark',
  ...z.toJSONSchema(MethodPack, { io: 'input', reused: 'ref' }),
});
