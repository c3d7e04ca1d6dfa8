import { isPassMark, type Policy } from '@clear-mark/core';
import type { AttemptRow, Certificate, Results, StandingCell } from '@clear-mark/contract';
import {
  CERTIFICATE_STATE_WORDS,
  rateWords,
  ruleWords,
  skillWords,
  STANDING_WORDS,
  traineeSentences,
  VERDICT_WORDS,
} from '@clear-mark/words';
import type { Report, ReportSection } from '../report.ts';
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

/** The record of a trainee: what is shown with its evidence, what comes next, rates, losses, causes, the last pieces. */
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
      lossSection(of.results.losses),
      piecesSection(of),
    ],
  };
}
