import {
  concludeLoss,
  type Conclusion,
  type ConclusionInput,
  lossTerms,
  type LossTerms,
} from '../loss/index.ts';
import {
  type Direction,
  type LinkUnderTest,
  type LossCriterion,
  type LossRules,
  type MethodSheet,
  parsePart,
  partKey,
} from '../sheet/index.ts';
import { DEFAULT_SCORING, score } from './score.ts';
import {
  type CriterionOutcome,
  type Entry,
  type EntryValue,
  isLossPart,
  type LossPartOutcome,
  type LossReference,
} from './types.ts';

/** A reading of a link that no method was chosen for. */
export interface LinkReading {
  readonly wavelengthNm: number;
  readonly direction: Direction | null;
  readonly value: Omit<EntryValue & { readonly kind: 'loss' }, 'kind'>;
}

/** A loss test without a method. `at` is the instant of all readings, ISO 8601. */
export interface LinkTest {
  readonly link: LinkUnderTest;
  readonly rules: LossRules;
  /** Those that the test requires. */
  readonly wavelengthsNm: readonly number[];
  /** Directions that each wavelength is read in; empty where it is not told. */
  readonly directions: readonly Direction[];
  readonly references: readonly LossReference[];
  readonly readings: readonly LinkReading[];
  readonly at: string;
  /** Whether the launch was conditioned; null where it is not known. */
  readonly conditioned: ConclusionInput['conditioned'];
}

export interface JudgedLinkTest {
  readonly outcome: CriterionOutcome;
  /** What was read, judged. */
  readonly parts: readonly LossPartOutcome[];
  readonly terms: ReadonlyMap<number, LossTerms>;
  readonly conclusions: readonly Conclusion[];
}

const SOURCE = { kind: 'house', fromMemory: false, words: 'entered for this link' } as const;

/**
 * Judges readings of a link by the same `score` as a sheet: one criterion, an entry for each reading. Losses in dB. Errors:
 * those of `lossTerms` for a link that has no limit, of `score` for references and readings that are no numbers.
 */
export function judgeLinkTest(test: LinkTest): JudgedLinkTest {
  const { link, rules, wavelengthsNm, directions } = test;
  const terms = new Map(wavelengthsNm.map((nm) => [nm, lossTerms(link, rules, nm)]));
  const loss: LossCriterion = {
    id: 'loss',
    label: 'Loss',
    kind: 'loss',
    points: 1,
    critical: true,
    required: true,
    source: SOURCE,
    wavelengthsNm,
    link,
    rules,
  };
  const criterion = directions.length > 0 ? { ...loss, directions } : loss;
  const entries = test.readings.map((reading, i) => entryOf(reading, i, test.at));
  const context = { ...DEFAULT_SCORING, references: test.references };
  const outcome = score(sheetOf(criterion), entries, context).criteria[0]!;
  const parts = outcome.parts.filter(isLossPart).filter((p) => p.verdict !== 'incomplete');
  const conclusions = concludeLoss({
    link,
    terms,
    bendStepDb: rules.bendStepDb.db,
    conditioned: test.conditioned,
    readings: parts.map(readingOf),
  });
  return { outcome, parts, terms, conclusions };
}

/** A judged part as conclusions are drawn from it. */
export function readingOf(part: LossPartOutcome): ConclusionInput['readings'][number] {
  const { fiber, wavelengthNm, direction } = parsePart(part.part);
  return {
    wavelengthNm: wavelengthNm!,
    direction,
    fiber,
    lossDb: part.lossDb,
    verdict: part.verdict,
    reason: part.reason?.code ?? null,
  };
}

const entryOf = ({ wavelengthNm, direction, value }: LinkReading, index: number, at: string): Entry => ({
  id: `e${index}`,
  kind: 'value',
  criterionId: 'loss',
  part: partKey({ fiber: null, wavelengthNm, direction }),
  value: { kind: 'loss', ...value },
  voidReason: null,
  note: null,
  authorId: '',
  capacity: 'instructor',
  deviceId: '',
  source: 'typed',
  supersedes: [],
  targetId: null,
  at,
});

const sheetOf = (criterion: LossCriterion): MethodSheet => ({
  id: 'link',
  version: 1,
  title: '',
  summary: '',
  pieceKind: 'link',
  fiberClass: criterion.link.fiberClass,
  passMarkPercent: 80,
  passMarkSource: SOURCE,
  cautions: [],
  thingsUsed: [],
  steps: [{ id: 'read', title: '', skill: 'test', place: 'instruments', how: '', criteria: [criterion] }],
});
