import {
  type Across,
  coverageOf,
  type Criterion,
  type Limit,
  type MethodSheet,
  type Source,
} from '@clear-mark/core';
import { DECIDED_ELSEWHERE, PRACTICE_OPTIONS, SHIPPED_METHODS } from '@clear-mark/methods';
import { COVERAGE_WORDS, skillInText, sourceWords, UNIT_WORDS } from '@clear-mark/words';

const cell = (text: string): string => text.replaceAll('|', '\\|');

interface Row {
  readonly limit: string;
  readonly unit: string;
  readonly source: Source;
}

/** A line for each limit of a criterion; one for a criterion without limits. */
function rowsOf(criterion: Criterion): Row[] {
  const side = (words: string, unit: string, limit: Limit | undefined): Row[] =>
    limit ? [{ limit: `${words} ${limit.value}`, unit, source: limit.source }] : [];
  switch (criterion.kind) {
    case 'measure':
    case 'readings':
    case 'count':
    case 'timed': {
      const unit =
        criterion.kind === 'measure' || criterion.kind === 'readings'
          ? UNIT_WORDS[criterion.unit]
          : criterion.kind === 'timed'
            ? 's'
            : criterion.noun;
      const { lower, upper, target } = criterion.band;
      const rows = [
        ...side(lower?.exclusive ? 'over' : 'at least', unit, lower),
        ...side(upper?.exclusive ? 'under' : 'at most', unit, upper),
      ];
      return target === undefined
        ? rows
        : [...rows, { limit: `target ${target}`, unit, source: criterion.source }];
    }
    case 'loss':
      return criterion.wavelengthsNm.flatMap((nm) => [
        {
          limit: `at ${nm} nm: connections × ${criterion.rules.connectionDb.db}, fiber ${criterion.rules.fiberDbPerKm[nm]!.db} dB/km`,
          unit: 'dB',
          source: criterion.rules.connectionDb.source,
        },
      ]);
    case 'grade':
      return [
        {
          limit: criterion.levels
            .map((l) => `${l.label} (${l.verdict.replace('_', ' ')}, ${l.points})`)
            .join('; '),
          unit: '',
          source: criterion.source,
        },
      ];
    case 'map':
      return [
        { limit: `type ${criterion.trunk}, ${criterion.ports} ports`, unit: '', source: criterion.source },
      ];
    case 'call':
      return [{ limit: 'agrees with the reference', unit: '', source: criterion.source }];
    case 'check':
      return [{ limit: '', unit: '', source: criterion.source }];
    default: {
      const never: never = criterion;
      return never;
    }
  }
}

/** What a criterion is read for, where it is more than once. */
function acrossWords(criterion: Criterion & Across): string {
  const words = [
    criterion.fibers === undefined ? [] : `${criterion.fibers} fibers`,
    criterion.directions === undefined ? [] : 'both directions',
  ].flat();
  return words.length === 0 ? '' : `, ${words.join(', ')}`;
}

function methodPart(sheet: MethodSheet): string {
  const lines = [
    `## ${sheet.title}`,
    '',
    `${sheet.summary} \`${sheet.id}\`, version ${sheet.version}, pass mark ${sheet.passMarkPercent} %.`,
    '',
    '| step | criterion | limit | unit | source |',
    '| --- | --- | --- | --- | --- |',
  ];
  sheet.steps.forEach((step, i) => {
    for (const criterion of step.criteria) {
      const marks = [
        criterion.stop ? 'stop' : criterion.critical ? 'critical' : '',
        COVERAGE_WORDS[coverageOf(criterion)],
        `${criterion.points} points`,
      ].filter((m) => m !== '');
      const name = `${criterion.label}${acrossWords(criterion)} (${marks.join(', ')})`;
      for (const row of rowsOf(criterion)) {
        const where = `${i + 1}. ${step.title}, ${skillInText(criterion.skill ?? step.skill)}`;
        lines.push(
          `| ${[where, name, row.limit, row.unit, sourceWords(row.source)].map(cell).join(' | ')} |`,
        );
      }
    }
  });
  const schools: string[] = [];
  for (const practice of sheet.schools ?? []) {
    const usual = practice.options.find((o) => o.id === practice.default)!.label;
    schools.push(`- ${practice.question} ${usual}.`);
  }
  if (schools.length > 0) lines.push('', 'Scored by, unless the class chose otherwise:', '', ...schools);
  return lines.join('\n');
}

/** The questions on which practitioners disagree, with the choices and the reason of the default. */
function practicePart(): string {
  return [
    '## Where practitioners disagree',
    '',
    '| question | choices, the default first | why |',
    '| --- | --- | --- |',
    ...PRACTICE_OPTIONS.map(({ question, options, default: usual, reason }) => {
      const first = options.filter((o) => o.id === usual);
      const rest = options.filter((o) => o.id !== usual);
      return `| ${[question, [...first, ...rest].map((o) => o.label).join('; '), reason].map(cell).join(' | ')} |`;
    }),
    ...DECIDED_ELSEWHERE.map(({ question, answer }) => `| ${cell(question)} | ${cell(answer)} | |`),
    '',
  ].join('\n');
}

/** The text of docs/methods.md. */
export function methodsDocument(): string {
  const criteria = SHIPPED_METHODS.flatMap((m) => m.steps.flatMap((s) => s.criteria)).length;
  return [
    '# The shipped methods',
    '',
    '<!-- Generated from packages/methods by `npm run methods-document`; do not edit. -->',
    '',
    `${SHIPPED_METHODS.length} methods, ${criteria} criteria. A value from a standard was written down from memory: check it against your own copy. The instructions of the connector, cable or splicer in hand go before any figure here, and local codes and the makers’ safety sheets before all of it.`,
    '',
    ...SHIPPED_METHODS.map((sheet) => `${methodPart(sheet)}\n`),
    practicePart(),
  ].join('\n');
}
