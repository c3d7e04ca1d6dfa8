import { z } from 'zod';

export const Id = z.uuid();
export const Instant = z.iso.datetime({ offset: false });
export const Day = z.iso.date();
export const Name = z.string().trim().min(1).max(80);
export const Label = z.string().trim().min(1).max(60);
export const Note = z.string().trim().min(1).max(2000);

export const ROLES = ['lead', 'instructor', 'trainee'] as const;
export type Role = (typeof ROLES)[number];

/** Turns a literal table of core into a Zod enum. */
export const oneOf = <const T extends readonly [string, ...string[]]>(table: T) => z.enum(table);
