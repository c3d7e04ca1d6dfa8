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

function piecesSection({ pieces }: TraineeReportOf): ReportSection {
  return {
    heading: 'The last pieces',
    blocks: [
      {
        kind: 'table',
        heads: ['Day', 'Piece', 'Method', 'Result', 'Loss, dB'],
        numbers: [],
        weights: [2, 1.5, 6, 2, 4],
        rows: pieces.map((p) => [
          p.dayWords,
          p.pieceLabel,
          p.methodTitle,
          VERDICT_WORDS[p.verdict],
          p.losses
            .map((l) => `${l.wavelengthNm} nm ${l.lossDb === null ? 'no light' : l.lossDb.toFixed(2)}`)
            .join(', '),
        ]),
      },
    ],
  };
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

function facesSection({ faces }: TraineeReportOf): ReportSection[] {
  if (faces.length === 0) return [];
  return [
    {
      heading: 'End faces',
      blocks: [
        {
          kind: 'table',
          heads: ['Day', 'Picture', 'Piece', 'Result', 'Trainee said'],
          numbers: [],
          weights: [2, 4, 2, 2, 2],
          rows: faces
            .slice(0, MOST_FACES)
            .map((f) => [
              f.dayWords,
              f.label,
              f.pieceLabel ?? '',
              f.verdict === null ? 'Not graded' : VERDICT_WORDS[f.verdict],
              f.traineeSaid === null ? '' : VERDICT_WORDS[f.traineeSaid],
            ]),
        },
      ],
    },
  ];
}

function certificatesSection({ certificates }: TraineeReportOf): ReportSection[] {
  if (certificates.length === 0) return [];
  return [
    {
      heading: 'Certificates',
      blocks: [
        {
          kind: 'table',
          heads: ['Skills', 'Code', 'Holds until', 'State'],
          numbers: [],
          weights: [5, 3, 2.4, 3],
          rows: certificates.map((c) => [
            c.skills.map((s) => skillWords(s.skill)).join(', '),
            c.code,
            c.validUntil,
            CERTIFICATE_STATE_WORDS[c.state],
          ]),
        },
      ],
    },
  ];
}

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
      ratesSection(of.results),
      causesSection(of.results.failures),
      withBlocks(lossSection(of.results.losses), trendBlocks(of)),
      ...facesSection(of),
      piecesSection(of),
    ],
  };
}
