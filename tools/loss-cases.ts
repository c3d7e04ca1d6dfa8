import {
  DEFAULT_LOSS_SETTINGS,
  DIRECTIONS,
  DomainError,
  FIBER_CLASSES,
  judgeLinkTest,
  levelOfText,
  type LinkReading,
  linkUnderTest,
  type LinkUnderTest,
  type LossReference,
  type LossRules,
  parseDecimal,
  readingOf,
  REFERENCE_METHODS,
  uncertaintyBudget,
  wavelengthsOf,
} from '@clear-mark/core';
import { isErrorCode, LinkPlanShape, LossSettingsShape } from '@clear-mark/contract';
import { lossRulesFor } from '@clear-mark/methods';
import { conclusionWords, errorWords, FLAG_WORDS, reasonWords } from '@clear-mark/words';
import { z } from 'zod';

const METRES_PER_FOOT = 0.3048;

/** Text that core reads as a number, refused in core's words where it does not. */
const typed = (read: (text: string) => unknown) =>
  z.string().superRefine((text, context) => {
    try {
      read(text);
    } catch (error) {
      const { code, params } = error as DomainError;
      context.addIssue({ code: 'custom', message: isErrorCode(code) ? errorWords(code, params) : code });
    }
  });

/** A link by its counts, or drawn part by part. */
const Link = z.union([
  z.strictObject({ plan: LinkPlanShape }),
  z
    .strictObject({
      fiberClass: z.enum(FIBER_CLASSES),
      lengthM: z.number().min(0).optional(),
      lengthKm: z.number().min(0).optional(),
      lengthFt: z.number().min(0).optional(),
      matedPairs: z.number().int().min(0).max(100),
      splices: z.number().int().min(0).max(1000).default(0),
    })
    .refine(
      (l) => [l.lengthM, l.lengthKm, l.lengthFt].filter((length) => length !== undefined).length === 1,
      'give one of lengthM, lengthKm and lengthFt',
    ),
]);

const Reading = z.strictObject({
  wavelengthNm: z.number().int(),
  direction: z.enum(DIRECTIONS).optional(),
  /** Decimal text, as typed; absent for no light. */
  value: typed((text) => parseDecimal(text)).optional(),
  unit: z.enum(['dB', 'dBm', 'mW', 'uW', 'nW']).default('dB'),
  noLight: z.boolean().default(false),
  /** Level of the reference in dBm, decimal text. */
  referenceDbm: typed(levelOfText).default('0'),
  referenceAgeHours: z.number().min(0).default(0),
  referenceMethod: z.enum(REFERENCE_METHODS).optional(),
  referenceWavelengthNm: z.number().int().optional(),
  rereadDbm: typed(levelOfText).nullable().default(null),
  showsNegative: z.boolean().default(false),
});

export const LossCases = z.array(
  z.strictObject({
    name: z.string().min(1),
    link: Link,
    referenceMethod: z.enum(REFERENCE_METHODS),
    settings: LossSettingsShape.partial().default({}),
    /** Those that the test requires; both of the class unless told. One that was not read leaves it incomplete. */
    wavelengthsNm: z.array(z.number().int()).min(1).optional(),
    /** At or under this a typed level is no light, dBm. */
    meterFloorDbm: z.number().min(-110).max(40).optional(),
    readings: z.array(Reading).default([]),
  }),
);
export type LossCase = z.infer<typeof LossCases>[number];

const READ_AT = Date.UTC(2026, 0, 1);
const HOUR_MS = 3_600_000;
const SOURCE = { kind: 'house', fromMemory: false, words: 'from the file' } as const;

/** Judges a case by the same `score()` as a sheet: a sheet with this one criterion, and an entry for each reading. */
export function judgeLossCase(given: LossCase) {
  try {
    const settings = { ...DEFAULT_LOSS_SETTINGS, ...given.settings };
    const link = linkOf(given);
    const shipped = lossRulesFor(link.fiberClass, given.referenceMethod, settings);
    const { meterFloorDbm: dbm } = given;
    const rules = dbm === undefined ? shipped : { ...shipped, meterFloorDbm: { dbm, source: SOURCE } };
    return { name: given.name, ...judged(given, link, rules, settings.conditioned) };
  } catch (error) {
    if (!(error instanceof DomainError)) throw error;
    return { name: given.name, error: { code: error.code, params: error.params } };
  }
}

function linkOf({ link, referenceMethod }: LossCase): LinkUnderTest {
  if ('plan' in link) return linkUnderTest(link.plan, referenceMethod);
  const { fiberClass, matedPairs, splices } = link;
  const lengthM =
    link.lengthM ?? (link.lengthKm === undefined ? link.lengthFt! * METRES_PER_FOOT : link.lengthKm * 1000);
  return { fiberClass, lengthM, matedPairs, splices, referenceMethod };
}

function judged(given: LossCase, link: LinkUnderTest, rules: LossRules, conditioned: boolean) {
  const required = given.wavelengthsNm ?? wavelengthsOf(link.fiberClass);
  const wavelengthsNm = [...new Set([...required, ...given.readings.map((r) => r.wavelengthNm)])];
  const directions = [...new Set(given.readings.flatMap((r) => r.direction ?? []))];
  const { outcome, parts, terms, conclusions } = judgeLinkTest({
    link,
    rules,
    wavelengthsNm,
    directions,
    references: given.readings.map((r, i) => referenceOf(r, i, given.referenceMethod)),
    readings: given.readings.map(readingFrom),
    at: new Date(READ_AT).toISOString(),
    conditioned: given.settings.conditioned === undefined ? null : conditioned,
  });
  const budget = uncertaintyBudget(rules.uncertainty);
  return {
    limits: wavelengthsNm.map((nm) => {
      const { limitDb, expectedDb, connections, fiberDb, connectionsDb, splicesDb } = terms.get(nm)!;
      return { wavelengthNm: nm, limitDb, expectedDb, connections, fiberDb, connectionsDb, splicesDb };
    }),
    uncertaintyDb: budget.expandedDb,
    budget: budget.lines,
    verdict: given.readings.length === 0 ? null : outcome.verdict,
    readings: parts.map((part) => {
      const { wavelengthNm, direction, lossDb, verdict, reason } = readingOf(part);
      return { wavelengthNm, direction, lossDb, uncertaintyDb: part.uncertaintyDb, verdict, reason };
    }),
    reasons: outcome.reasons.map((r) => reasonWords(r, () => 'Loss')),
    flags: outcome.flags.map((f) => FLAG_WORDS[f]),
    conclusions: conclusions.map(conclusionWords),
  };
}

const readingFrom = (reading: LossCase['readings'][number], index: number): LinkReading => ({
  wavelengthNm: reading.wavelengthNm,
  direction: reading.direction ?? null,
  value: {
    unit: reading.unit,
    referenceId: `r${index}`,
    ...(reading.noLight || reading.value === undefined ? { noLight: true } : { text: reading.value }),
  },
});

function referenceOf(
  reading: LossCase['readings'][number],
  index: number,
  method: LossReference['method'],
): LossReference {
  return {
    id: `r${index}`,
    method: reading.referenceMethod ?? method,
    wavelengthNm: reading.referenceWavelengthNm ?? reading.wavelengthNm,
    valueDbm: reading.referenceDbm,
    setAt: new Date(READ_AT - reading.referenceAgeHours * HOUR_MS).toISOString(),
    showsNegative: reading.showsNegative,
    rereadDbm: reading.rereadDbm,
    voidReason: null,
  };
}
