import type { ReferenceMethod } from '@clear-mark/core';
import type { LossSample, Results, StandingCell } from '@clear-mark/contract';
import {
  classSentences,
  DIRECTION_WORDS,
  evidenceWords,
  faultWords,
  rateWords,
  REFERENCE_WORDS,
  skillWords,
  STANDING_WORDS,
} from '@clear-mark/words';
import type { EvidenceCode } from '@clear-mark/core';
import type { Report, ReportBlock, ReportSection } from '../report.ts';

/** What every report says of where and when it is from; days and instants are words already, in the class's zone. */
export interface ReportOf {
  readonly className: string;
  readonly place: string;
  readonly days: string;
  readonly madeAt: string;
}

/** Causes that are listed: the costliest. */
const MOST_CAUSES = 12;

/** Where, when, and on which day it was made. */
export const reportFacts = (of: ReportOf): string[] => [
  [of.className, of.place, of.days].filter((t) => t !== '').join(', '),
  `Made ${of.madeAt}.`,
];
export const INTERVALS = 'A rate stands with its 95 % interval in brackets.';
const none = (text: string): ReportBlock => ({ kind: 'text', text, soft: true });
const db = (x: number | null): string => (x === null ? '' : x.toFixed(3));

export const evidenceOf = (cell: StandingCell): string =>
  evidenceWords(cell.evidence.code as EvidenceCode, cell.evidence.params);

/** Pass rates by skill: all outcomes, and first attempts. */
export function ratesSection({ skills, whole }: Pick<Results, 'skills' | 'whole'>): ReportSection {
  const line = (name: string, s: Results['whole']): string[] => [
    name,
    rateWords(s.rate),
    rateWords(s.firstAttempt),
    String(s.void),
    String(s.incomplete),
  ];
  return {
    heading: 'Pass rates',
    blocks: [
      {
        kind: 'table',
        heads: ['Skill', 'Passed', 'At the first attempt', 'Void', 'Incomplete'],
        numbers: [3, 4],
        weights: [3, 5, 5, 1.4, 2],
        rows: [...skills.map((s) => line(skillWords(s.skill), s.summary)), line('Whole pieces', whole)],
      },
    ],
  };
}

/** Losses: one line a sample, whose method, reference, wavelength and direction are never put together. */
export function lossSection(samples: readonly LossSample[]): ReportSection {
  const name = (s: LossSample): string =>
    [
      s.methodTitle,
      s.fiberClass,
      REFERENCE_WORDS[s.referenceMethod as ReferenceMethod],
      `${s.wavelengthNm} nm`,
      ...(s.direction === '' ? [] : [DIRECTION_WORDS[s.direction]]),
    ].join(', ');
  return {
    heading: 'Losses, dB',
    blocks:
      samples.length === 0
        ? [none('No valid reading yet.')]
        : [
            {
              kind: 'table',
              heads: ['Readings of', 'n', 'Mean', 'SD', 'Median', '95 %', 'Limit', 'Over'],
              numbers: [1, 2, 3, 4, 5, 6, 7],
              weights: [6, 1.3, 1.4, 1.4, 1.5, 1.4, 1.4, 1.2],
              rows: samples.map((s) => [
                name(s),
                String(s.summary.n),
                db(s.summary.mean),
                db(s.summary.sd),
                db(s.summary.median),
                db(s.summary.q95),
                db(s.limitDb),
                String(s.summary.over),
              ]),
            },
          ],
  };
}

export function causesSection(failures: Results['failures']): ReportSection {
  return {
    heading: 'What fails',
    blocks:
      failures.length === 0
        ? [none('Nothing failed yet.')]
        : [
            {
              kind: 'table',
              heads: ['Criterion', 'Skill', 'Failed', 'Points lost', 'Seen most'],
              numbers: [2, 3],
              weights: [5, 2.4, 1.3, 1.8, 4],
              rows: failures.slice(0, MOST_CAUSES).map((f) => [
                f.label,
                skillWords(f.skill),
                String(f.failed),
                String(f.pointsLost),
                f.faults
                  .slice(0, 2)
                  .map((x) => `${faultWords(x.code)} ${x.times}`)
                  .join(', '),
              ]),
            },
          ],
  };
}

/** Who needs what again, and who is ready: the evidence beside each. */
function peopleSections(standings: Results['standings']): ReportSection[] {
  const asks = ['retrain', 'lapsed', 'watch'] as const;
  const cells = standings.flatMap((s) => s.cells.map((cell) => ({ name: s.traineeName, cell })));
  const needs = asks.flatMap((standing) => cells.filter(({ cell }) => cell.standing === standing));
  return [
    {
      heading: 'Who needs what again',
      blocks:
        needs.length === 0
          ? [none('Nobody at present.')]
          : [
              {
                kind: 'table',
                heads: ['Trainee', 'Skill', 'Standing', 'Because'],
                numbers: [],
                weights: [3, 2.2, 1.8, 7],
                rows: needs.map(({ name, cell }) => [
                  name,
                  skillWords(cell.skill),
                  STANDING_WORDS[cell.standing],
                  evidenceOf(cell) + (cell.behind ? ` Mostly at: ${cell.behind.label}.` : ''),
                ]),
              },
            ],
    },
    {
      heading: 'Who is ready',
      blocks: [
        {
          kind: 'table',
          heads: ['Trainee', 'Competent in', 'Still learning'],
          numbers: [],
          weights: [3, 5, 5],
          rows: standings.map(({ traineeName, cells: own }) => [
            traineeName,
            namesOf(own, 'competent'),
            namesOf(own, 'learning'),
          ]),
        },
      ],
    },
  ];
}
const namesOf = (cells: readonly StandingCell[], standing: StandingCell['standing']): string =>
  cells
    .filter((c) => c.standing === standing)
    .map((c) => skillWords(c.skill))
    .join(', ');

/** The report of a class: rates, losses, causes, who needs what again, who is ready. The numbers are those of Insight. */
export function classReport(of: ReportOf, results: Results): Report {
  return {
    title: `Class report, ${of.className}`,
    facts: [...reportFacts(of), INTERVALS],
    sections: [
      {
        heading: 'In two sentences',
        blocks: [
          { kind: 'text', text: classSentences(results).join(' ') },
          none(`${results.signed} signed attempts.`),
        ],
      },
      ratesSection(results),
      ...peopleSections(results.standings),
      causesSection(results.failures),
      lossSection(results.losses),
    ],
  };
}
