import {
  type Caution,
  coverageOf,
  type Criterion,
  type MethodSheet,
  type SheetDifference,
  type Skill,
  type Source,
  type Step,
  type ThingKind,
} from '@clear-mark/core';
import {
  COVERAGE_WORDS,
  faultWords,
  skillWords,
  sourceWords,
  thingWords,
  UNIT_WORDS,
  VERDICT_WORDS,
} from '@clear-mark/words';
import { limitWords } from '../../../shared/limit-words.ts';

/** A difference as a line of a table. */
export interface DifferenceLine {
  readonly key: string;
  readonly where: string;
  readonly what: string;
  readonly before: string;
  readonly after: string;
}

const NOTHING = 'nothing';
/** Fields in the words of the sheet; what is not named here is told as it is called in the data. */
const FIELD_WORDS: Readonly<Record<string, string>> = {
  title: 'name',
  summary: 'what it is',
  pieceKind: 'piece',
  fiberClass: 'fiber',
  passMarkPercent: 'pass mark',
  passMarkSource: 'source of the pass mark',
  strip: 'strip lengths',
  cautions: 'cautions',
  thingsUsed: 'equipment',
  schools: 'practice options',
  how: 'how it is done',
  place: 'place on the piece',
  skill: 'skill',
  drawing: 'drawing',
  label: 'words',
  points: 'points',
  critical: 'critical',
  required: 'scored',
  acceptsTrainee: 'scored',
  stop: 'stop',
  hint: 'hint',
  faults: 'faults',
  source: 'source',
  band: 'limit',
  unit: 'unit',
  noun: 'what is counted',
  levels: 'levels',
  wavelengthsNm: 'wavelengths',
  link: 'link',
  rules: 'allowances',
  fibers: 'fibers',
  directions: 'directions',
  ports: 'ports',
  trunk: 'trunk',
  of: 'held against',
  less: 'less another length',
  uncertainty: 'uncertainty',
};
const CHANGE_WORDS = { added: 'new', removed: 'removed', moved: 'moved', changed: '' } as const;

/** Differences as lines, the whole first, then step by step; lengths in mm. */
export function differenceLines(
  differences: readonly SheetDifference[],
  before: MethodSheet,
  after: MethodSheet,
): DifferenceLine[] {
  const seen = new Set<string>();
  return differences.flatMap((d, i) => {
    const what = d.field === null ? CHANGE_WORDS[d.change] : (FIELD_WORDS[d.field] ?? d.field);
    const where = placeWords(d, before, after);
    const key = `${where} ${what}`;
    // A coverage is two fields of the data and one thing to a reader.
    if (what === 'scored' && seen.has(key)) return [];
    seen.add(key);
    const said = (sheet: MethodSheet, value: unknown): string => valueWords(d, sheet, value);
    return [{ key: `${i} ${key}`, where, what, before: said(before, d.before), after: said(after, d.after) }];
  });
}

const stepOf = (sheet: MethodSheet, id: string | null): Step | undefined =>
  sheet.steps.find((s) => s.id === id);
const criterionOf = (sheet: MethodSheet, id: string | null): Criterion | undefined =>
  sheet.steps.flatMap((s) => s.criteria).find((c) => c.id === id);

function placeWords(d: SheetDifference, before: MethodSheet, after: MethodSheet): string {
  if (d.criterion !== null) {
    return (criterionOf(after, d.criterion) ?? criterionOf(before, d.criterion))?.label ?? '';
  }
  if (d.step !== null) return (stepOf(after, d.step) ?? stepOf(before, d.step))?.title ?? '';
  return 'The method';
}

function valueWords(d: SheetDifference, sheet: MethodSheet, value: unknown): string {
  if (d.field === null) {
    if (d.change !== 'moved') return value === undefined ? '' : wholeWords(value as Step | Criterion);
    return typeof value === 'string' && d.before !== d.after ? (stepOf(sheet, value)?.title ?? '') : '';
  }
  const criterion = criterionOf(sheet, d.criterion);
  if (d.field === 'band' && criterion) return bandWords(criterion);
  if ((d.field === 'required' || d.field === 'acceptsTrainee') && criterion) {
    return COVERAGE_WORDS[coverageOf(criterion)] || 'required';
  }
  return fieldWords(d.field, value);
}

function bandWords(criterion: Criterion): string {
  if (!('band' in criterion) || (!criterion.band.lower && !criterion.band.upper)) return NOTHING;
  const { lower, upper, target } = criterion.band;
  const sources = [lower, upper].flatMap((l) => (l ? [sourceWords(l.source)] : []));
  const aim = target === undefined ? '' : `, aim ${target}`;
  return `${limitWords(criterion, 'mm')}${aim} (${[...new Set(sources)].join('; ')})`;
}

const wholeWords = (of: Step | Criterion): string =>
  'criteria' in of
    ? `${of.criteria.length} ${of.criteria.length === 1 ? 'criterion' : 'criteria'}`
    : `${of.points} points`;

const list = (values: readonly string[]): string => (values.length === 0 ? NOTHING : values.join('; '));

function fieldWords(field: string, value: unknown): string {
  if (value === undefined || value === '') return NOTHING;
  switch (field) {
    case 'skill':
      return skillWords(value as Skill);
    case 'unit':
      return UNIT_WORDS[value as keyof typeof UNIT_WORDS] || 'a plain number';
    case 'passMarkPercent':
      return `${String(value)} %`;
    case 'source':
    case 'passMarkSource':
      return sourceWords(value as Source);
    case 'cautions':
      return list((value as Caution[]).map((c) => `${c.stop ? 'Stop. ' : ''}${c.text}`));
    case 'thingsUsed':
      return list((value as ThingKind[]).map(thingWords));
    case 'faults':
      return list((value as string[]).map(faultWords));
    case 'levels':
      return list(
        (value as { label: string; verdict: keyof typeof VERDICT_WORDS; points: number }[]).map(
          (l) => `${l.label}: ${VERDICT_WORDS[l.verdict].toLowerCase()}, ${l.points}`,
        ),
      );
    case 'strip': {
      const { jacketMm, bufferMm, cleaveMm } = value as Record<string, number>;
      return `jacket ${jacketMm}, buffer ${bufferMm}, cleaved at ${cleaveMm} mm`;
    }
    default:
      return plainWords(value);
  }
}

function plainWords(value: unknown): string {
  if (value === true) return 'yes';
  if (value === false) return 'no';
  if (typeof value === 'string' || typeof value === 'number') return String(value);
  if (Array.isArray(value) && value.every((v) => typeof v !== 'object')) return list(value.map(String));
  return 'see both sheets';
}
