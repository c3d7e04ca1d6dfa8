import { coverageOf, type Criterion, type MethodSheet } from '@clear-mark/core';
import { codeFor } from './labels.ts';
import { COVERAGE_WORDS, skillWords, UNIT_WORDS } from '@clear-mark/words';

/** A cell of a paper sheet: words, or a box to write in. */
export type Cell =
  | { readonly words: string; readonly bold?: boolean; readonly small?: boolean }
  | { readonly box: 'pass_fail' | 'value' | 'mark' };

/** A table on paper; a row with `across` is a heading over all columns. */
export interface PaperTable {
  readonly heads: readonly string[];
  readonly widthsMm: readonly (number | '*')[];
  readonly rows: readonly (readonly Cell[] | { readonly across: string })[];
}
export interface ScoreSheet {
  readonly title: string;
  readonly below: string;
  /** Lines to write on: trainee, piece and so on. */
  readonly lines: readonly string[];
  readonly code: string;
  /** Who the columns of a matrix are, by number. */
  readonly legend: readonly string[];
  readonly tables: readonly PaperTable[];
}

/** Columns of a matrix on one page. */
const TRAINEES_A_PAGE = 15;

const boxOf = (c: Criterion): Cell =>
  c.kind === 'check' || c.kind === 'call' ? { box: 'pass_fail' } : { box: 'value' };

/** The words behind a criterion: unit, tag, and the levels of a scale. */
function besideWords(c: Criterion): string {
  const tags = [
    c.stop ? 'stop' : c.critical ? 'critical' : '',
    COVERAGE_WORDS[coverageOf(c)],
    c.kind === 'grade' ? c.levels.map((l, i) => `${i + 1} ${l.label}`).join(', ') : '',
    c.kind === 'loss' ? `${c.wavelengthsNm.join(', ')} nm, dB` : '',
  ];
  return tags.filter((t) => t !== '').join('; ');
}
const unitOf = (c: Criterion): string => {
  if ('unit' in c) return UNIT_WORDS[c.unit];
  return c.kind === 'timed' ? 's' : '';
};

/**
 * A sheet to score one piece by hand: the criteria in the order of the method's sheet, so that it is entered afterwards from
 * top to bottom. `limitOf` says a criterion's limit in words. Readings of several wavelengths or fibers have one box each for
 * what decides.
 */
export function pieceSheet(
  sheet: MethodSheet,
  limitOf: (c: Criterion) => string,
  names: { readonly trainee: string; readonly piece: string },
): ScoreSheet {
  let number = 0;
  const rows = sheet.steps.flatMap((step, i): PaperTable['rows'] => [
    { across: `${i + 1}. ${step.title} (${skillWords(step.skill)})` },
    ...step.criteria.map((c): readonly Cell[] => [
      { words: String(++number), small: true },
      { words: c.label, bold: c.critical },
      { words: [limitOf(c), besideWords(c)].filter((w) => w !== '').join('; '), small: true },
      { words: String(c.points), small: true },
      boxOf(c),
      { words: unitOf(c), small: true },
    ]),
  ]);
  return {
    ...headOf(sheet),
    lines: [`Trainee: ${names.trainee}`, `Piece: ${names.piece}`, 'Date:', 'Instructor:'],
    legend: [],
    tables: [
      {
        heads: ['', 'Criterion', 'Limit', 'Points', 'Result', ''],
        widthsMm: [8, '*', 52, 13, 24, 9],
        rows,
      },
    ],
  };
}

/**
 * One sheet for a whole class: a row a criterion, a column a trainee, named by number, 15 on a page; further ones on further
 * pages. A check is ticked or crossed, a value is written into its box.
 */
export function classMatrix(sheet: MethodSheet, trainees: readonly string[]): ScoreSheet {
  const pages = Array.from({ length: Math.max(1, Math.ceil(trainees.length / TRAINEES_A_PAGE)) }, (_, page) =>
    Array.from(
      { length: Math.min(TRAINEES_A_PAGE, trainees.length - page * TRAINEES_A_PAGE) },
      (__, i) => page * TRAINEES_A_PAGE + i + 1,
    ),
  );
  const tables = pages.map((columns): PaperTable => {
    let number = 0;
    return {
      heads: ['', 'Criterion', ...columns.map(String)],
      widthsMm: [7, '*', ...columns.map(() => 11)],
      rows: sheet.steps.flatMap((step, i): PaperTable['rows'] => [
        { across: `${i + 1}. ${step.title}` },
        ...step.criteria.map((c): readonly Cell[] => [
          { words: String(++number), small: true },
          { words: unitOf(c) === '' ? c.label : `${c.label}, ${unitOf(c)}`, bold: c.critical, small: true },
          ...columns.map((): Cell => ({ box: 'mark' })),
        ]),
      ]),
    };
  });
  return {
    ...headOf(sheet),
    lines: ['Date:', 'Instructor:'],
    legend: trainees.map((name, i) => `${i + 1} ${name}`),
    tables,
  };
}

const headOf = (sheet: MethodSheet): Pick<ScoreSheet, 'title' | 'below' | 'code'> => ({
  title: sheet.title,
  below: `version ${sheet.version} · pass mark ${sheet.passMarkPercent} % · ${sheet.id}`,
  code: codeFor('method', sheet.id, String(sheet.version)),
});
