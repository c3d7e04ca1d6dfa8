import { MOST_OWN_NAME, OWN_NAME_PATTERN, type OwnName, SKILLS, THING_KINDS } from '@clear-mark/core';
import { z } from 'zod';

/** Years that a record of a course can lie in; a date beyond them is a slip, and some databases take none. */
export const YEARS = { least: 2000, most: 2099 } as const;
const withinYears = (text: string): boolean => {
  const year = Number(text.slice(0, 4));
  return year >= YEARS.least && year <= YEARS.most;
};
const yearsSaid = `a year from ${YEARS.least} to ${YEARS.most} is needed`;

export const Id = z.uuid().toLowerCase();
export const Instant = z.iso.datetime({ offset: false }).refine(withinYears, yearsSaid);
export const Day = z.iso.date().refine(withinYears, yearsSaid);
export const Name = z.string().trim().min(1).max(80);
export const Label = z.string().trim().min(1).max(60);
/** A decimal as a person types it, with point or comma. */
export const DecimalText = z.string().regex(/^-?\d{1,6}([.,]\d{1,6})?$/);
export const Note = z.string().trim().min(1).max(2000);
/** The largest whole number that a column or a parameter of the database takes. */
export const MOST_WHOLE = 2_147_483_647;
/** Numbers come in queries as decimal text: nothing, `0x10` and ` 7` are none, which `Number` would take for 0, 16 and 7. */
const queryNumber = (pattern: RegExp) =>
  z.union([z.number(), z.string().regex(pattern, 'a decimal number is needed').transform(Number)]);
/** A whole number of a query. */
export const QueryWhole = queryNumber(/^\d{1,10}$/).pipe(z.number().int().min(0).max(MOST_WHOLE));
/** A decimal number of a query, as a program writes its doubles. */
export const QueryNumber = queryNumber(/^-?\d{1,10}(\.\d{1,30})?(e-\d{1,2})?$/).pipe(
  z.number().min(-1e9).max(1e9),
);

export const ROLES = ['lead', 'instructor', 'trainee'] as const;
export type Role = (typeof ROLES)[number];

/** Turns a literal table of core into a Zod enum. */
export const oneOf = <const T extends readonly [string, ...string[]]>(table: T) => z.enum(table);

/** One of a list, or what a school named itself: by one pattern, so that the published schema says it as well. */
const orOwnName = <T extends string>(list: readonly T[]): z.ZodType<T | OwnName, T | OwnName> =>
  z
    .string()
    .regex(
      new RegExp(`^(?:${list.join('|')}|(?=.{1,${MOST_OWN_NAME}}$)${OWN_NAME_PATTERN})$`, 'u'),
      'one of the list is needed, or own: with a name of up to 40 letters, digits, spaces and hyphens',
    ) as never;
/** A skill of the trade, or a further one of the school: `own:` and its name with `_` for each space. */
export const SkillShape = orOwnName(SKILLS);
/** A kind of equipment that everybody has, or a further one of the school. */
export const ThingKindShape = orOwnName(THING_KINDS);

/** A NUL, or half of a pair that makes one character: no text, and neither UTF-8 nor the database can hold it. */
const NO_TEXT = new RegExp('[\\0\\p{Surrogate}]', 'u');
const ALL_NO_TEXT = new RegExp(NO_TEXT, 'gu');

/** The same text without what cannot be kept. */
export const keepableText = (text: string): string => text.replace(ALL_NO_TEXT, '');

/**
 * Where in a body, a query or parameters something stands that is no text, in keys as well as in values; null where all
 * of it can be kept. Every request is looked through by this one function before its shape is.
 */
export function badTextAt(value: unknown): string | null {
  const open: { readonly at: string; readonly value: unknown }[] = [{ at: '', value }];
  for (let next = open.pop(); next; next = open.pop()) {
    const { at } = next;
    if (typeof next.value === 'string') {
      if (NO_TEXT.test(next.value)) return at === '' ? 'body' : at;
    } else if (next.value !== null && typeof next.value === 'object') {
      for (const [key, inner] of Object.entries(next.value)) {
        if (NO_TEXT.test(key)) return at === '' ? 'body' : at;
        open.push({ at: at === '' ? key : `${at}.${key}`, value: inner });
      }
    }
  }
  return null;
}
