import { isPassMark, type Policy } from '@clear-mark/core';
import type { AttemptRow, Certificate, FaceRow, Results, StandingCell } from '@clear-mark/contract';
import {
  CERTIFICATE_STATE_WORDS,
  rateWords,
  ruleWords,
  skillWords,
  STANDING_WORDS,
  traineeSentences,
  VERDICT_WORDS,
} from '@clear-mark/words';
import { lossTrend } from '../loss-trend.ts';
import { passTrend } from '../pass-trend.ts';
import type { Report, ReportBlock, ReportSection } from '../report.ts';
import {
  causesSection,
  evidenceOf,
  INTERVALS,
  lossSection,
  ratesSection,
  type ReportOf,
  reportFacts,
} from './class-report.ts';

export interface TraineeReportOf extends ReportOf {
  readonly traineeName: string;
  readonly policy: Policy;
  readonly cells: readonly StandingCell[];
  /** The results of this trainee alone. */
  readonly results: Results;
  /** The last pieces, the newest first, with the day of each in words. */
  readonly pieces: readonly (AttemptRow & { readonly dayWords: string })[];
  readonly certificates: readonly Certificate[];
  /** End faces of this trainee, the newest first, with the day of each in words. */
  readonly faces: readonly (FaceRow & { readonly dayWords: string })[];
}

function skillsSection({ cells, policy }: TraineeReportOf): ReportSection {
  const tried = cells.filter((c) => c.standing !== 'not_tried');
  return {
    heading: 'Where each skill stands',
    blocks: [
      {
        kind: 'table',
        heads: ['Skill', 'Standing', 'Evidence', 'Last outcomes', 'Passed'],
        numbers: [],
        weights: [2.2, 1.9, 5, 3, 3.6],
        rows: tried.map((c) => [
          skillWords(c.skill),
          STANDING_WORDS[c.standing],
          evidenceOf(c),
          [...c.window].map((mark) => (isPassMark(mark) ? 'P' : 'F')).join(' '),
          rateWords(c.rate),
        ]),
      },
      {
        kind: 'text',
        soft: true,
        text: `Competence is shown by ${ruleWords(policy)}, and lapses ${policy.currencyMonths} months after the last pass. Last outcomes, the newest last: P passed, F failed.`,
      },
    ],
  };
}

/** A section that is one table of texts: its columns with the share of the width that each takes. */
const tableSection = (
  heading: string,
  columns: readonly (readonly [head: string, weight: number])[],
  rows: readonly (readonly string[])[],
): ReportSection => ({
  heading,
  blocks: [
    {
      kind: 'table',
      heads: columns.map(([head]) => head),
      numbers: [],
      weights: columns.map(([, weight]) => weight),
      rows,
    },
  ],
});

const piecesSection = ({ pieces }: TraineeReportOf): ReportSection =>
  tableSection(
    'The last pieces',
    [
      ['Day', 2],
      ['Piece', 1.5],
      ['Method', 6],
      ['Result', 2],
      ['Loss, dB', 4],
    ],
    pieces.map((p) => [
      p.dayWords,
      p.pieceLabel,
      p.methodTitle,
      VERDICT_WORDS[p.verdict],
      p.losses
        .map((l) => `${l.wavelengthNm} nm ${l.lossDb === null ? 'no light' : l.lossDb.toFixed(2)}`)
        .join(', '),
    ]),
  );

/** How often each skill was passed, drawn from the oldest of the last pieces to the newest. */
function rateBlocks({ pieces }: TraineeReportOf): ReportBlock[] {
  const svg = passTrend([...pieces].reverse());
  if (svg === null) return [];
  const words =
    'Outcomes of the last pieces by skill, the newest to the right: filled passed, crossed through failed; the line is the share that passed of the last five.';
  return [{ kind: 'drawing', svg, words }];
}

/** What the losses did, drawn from the oldest of the last pieces to the newest. */
function trendBlocks({ pieces, results }: TraineeReportOf): ReportBlock[] {
  const svg = lossTrend(
    [...pieces].reverse(),
    results.losses.map((l) => l.limitDb),
  );
  if (svg === null) return [];
  return [{ kind: 'drawing', svg, words: 'Losses of the last pieces, the newest to the right, dB.' }];
}

/** End faces that a record lists: the newest. */
const MOST_FACES = 12;

const facesSection = ({ faces }: TraineeReportOf): ReportSection[] =>
  faces.length === 0
    ? []
    : [
        tableSection(
          'End faces',
          [
            ['Day', 2],
            ['Picture', 4],
            ['Piece', 2],
            ['Result', 2],
            ['Trainee said', 2],
          ],
          faces
            .slice(0, MOST_FACES)
            .map((f) => [
              f.dayWords,
              f.label,
              f.pieceLabel ?? '',
              f.verdict === null ? 'Not graded' : VERDICT_WORDS[f.verdict],
              f.traineeSaid === null ? '' : VERDICT_WORDS[f.traineeSaid],
            ]),
        ),
      ];

const certificatesSection = ({ certificates }: TraineeReportOf): ReportSection[] =>
  certificates.length === 0
    ? []
    : [
        tableSection(
          'Certificates',
          [
            ['Skills', 5],
            ['Code', 3],
            ['Holds until', 2.4],
            ['State', 3],
          ],
          certificates.map((c) => [
            c.skills.map((k) => skillWords(k.skill)).join(', '),
            c.code,
            c.validUntil,
            CERTIFICATE_STATE_WORDS[c.state],
          ]),
        ),
      ];

const withBlocks = (section: ReportSection, blocks: readonly ReportBlock[]): ReportSection => ({
  ...section,
  blocks: [...section.blocks, ...blocks],
});

/** The record of a trainee: what is shown with its evidence, what comes next, rates, causes, losses with their trend, end faces,
 * the last pieces. */
export function traineeReport(of: TraineeReportOf): Report {
  return {
    title: `Record of ${of.traineeName}`,
    facts: [...reportFacts(of), INTERVALS],
    sections: [
      {
        heading: 'In two sentences',
        blocks: [{ kind: 'text', text: traineeSentences(of.traineeName, of.cells, of.policy).join(' ') }],
      },
      skillsSection(of),
      ...certificatesSection(of),
      withBlocks(ratesSection(of.results), rateBlocks(of)),
      causesSection(of.results.failures),
      withBlocks(lossSection(of.results.losses), trendBlocks(of)),
      ...facesSection(of),
      piecesSection(of),
    ],
  };
}
