import {
  type Criterion,
  type CriterionOutcome,
  type LinkLoss,
  skillsOf,
  type TraceEvent,
} from '@clear-mark/core';
import type { AttemptDocument, Revision, TraceRow } from '@clear-mark/contract';
import {
  INCOMPLETE_WORDS,
  REVISION_KIND_WORDS,
  reasonWords,
  skillWords,
  sourceWords,
  TRACE_EVENT_WORDS,
  VERDICT_WORDS,
} from '@clear-mark/words';
import type { Report, ReportPicture, ReportSection } from '../report.ts';
import { type ReportOf, reportFacts } from './class-report.ts';

export interface AttemptReportOf extends ReportOf {
  readonly document: AttemptDocument;
  /** What an entry says, in words; a limit in words. */
  readonly valueOf: (criterion: Criterion, outcome: CriterionOutcome) => string;
  readonly limitOf: (criterion: Criterion) => string;
  readonly momentOf: (instant: string) => string;
  /** Its end faces, as they were taken. */
  readonly pictures: readonly ReportPicture[];
  /** The traces that are kept with it. */
  readonly traces: readonly ReportTrace[];
}

/** A trace of an OTDR with what is on it. */
export interface ReportTrace {
  readonly row: TraceRow;
  readonly events: readonly TraceEvent[];
  readonly loss: LinkLoss;
}

/** The report of one signed piece: the verdict with its reasons, every criterion with what was found, and the records. */
export function attemptReport(of: AttemptReportOf): Report {
  const { document } = of;
  const { attempt, sheet, revisions } = document;
  const newest = revisions.at(-1);
  const outcome = newest?.outcome;
  const labels = new Map(sheet.steps.flatMap((s) => s.criteria).map((c) => [c.id, c.label]));
  const labelOf = (id: string): string => labels.get(id) ?? id;
  return {
    title: `${attempt.pieceLabel}, ${attempt.traineeName}`,
    facts: [
      `${sheet.title}, version ${sheet.version}. Begun ${of.momentOf(attempt.startedAt)}.`,
      attempt.things.map((t) => t.label).join(', '),
      ...reportFacts(of),
    ].filter((f) => f !== ''),
    sections: [
      ...(outcome && newest ? [verdictSection(newest, labelOf)] : []),
      ...sheet.steps.map((step, i): ReportSection => ({
        heading: `${i + 1}. ${step.title}`,
        blocks: [
          {
            kind: 'table',
            heads: ['Criterion', 'Found', 'Limit', 'Result', 'Points'],
            numbers: [4],
            weights: [5, 3.4, 3, 2.2, 1.6],
            rows: step.criteria.map((c) => {
              const found = outcome?.criteria.find((o) => o.criterionId === c.id);
              return [
                c.label,
                found ? of.valueOf(c, found) : '',
                of.limitOf(c),
                found ? resultOf(found) : '',
                found ? `${found.earned} of ${c.points}` : '',
              ];
            }),
          },
        ],
      })),
      ...(of.pictures.length > 0
        ? [{ heading: 'Its end faces', blocks: [{ kind: 'pictures' as const, pictures: of.pictures }] }]
        : []),
      ...of.traces.map(traceSection),
      ...(revisions.length > 0 ? [recordsSection(revisions, of)] : []),
      { heading: 'Where the limits come from', blocks: [{ kind: 'list', items: sourcesOf(of) }] },
    ],
  };
}

function traceSection({ row, events, loss }: ReportTrace): ReportSection {
  const light = `${Math.round(row.wavelengthNm)} nm, pulse ${row.pulseNs} ns`;
  const link =
    loss.lossDb === null
      ? ''
      : `Loss from ${metres(loss.fromM)} to ${metres(loss.toM)}: ${loss.lossDb.toFixed(2)} dB`;
  const incomplete = loss.why === null ? '' : `, ${INCOMPLETE_WORDS[loss.why]}`;
  return {
    heading: `Trace: ${row.label}`,
    blocks: [
      { kind: 'text', text: `${light}. ${link}${link === '' ? '' : `${incomplete}.`}`.trim() },
      {
        kind: 'table',
        heads: ['No.', 'At', 'What', 'Loss, dB', 'Reflectance, dB'],
        numbers: [1, 3, 4],
        weights: [1, 2, 4, 2, 2.4],
        rows: events.map((e, i) => [
          String(i + 1),
          metres(e.positionM),
          e.ghost ? 'ghost' : TRACE_EVENT_WORDS[e.kind],
          e.ghost || e.lossDb === null ? '' : e.lossDb.toFixed(2),
          e.reflectanceDb === null ? '' : e.reflectanceDb.toFixed(1),
        ]),
      },
    ],
  };
}
const metres = (m: number): string => `${m.toFixed(1)} m`;

const resultOf = ({ state, verdict }: CriterionOutcome): string =>
  state === 'not_seen' ? 'Not seen' : state === 'open' ? 'No result' : VERDICT_WORDS[verdict];

function verdictSection({ outcome }: Revision, labelOf: (id: string) => string): ReportSection {
  const skills = skillsOf(outcome.skills).flatMap((skill) => {
    const group = outcome.skills[skill];
    return group
      ? [
          [
            skillWords(skill),
            VERDICT_WORDS[group.verdict],
            `${group.points.earned} of ${group.points.possible}`,
          ],
        ]
      : [];
  });
  return {
    heading: `${VERDICT_WORDS[outcome.verdict]}, ${outcome.points.earned} of ${outcome.points.possible} points`,
    blocks: [
      ...(outcome.reasons.length > 0
        ? [{ kind: 'list' as const, items: outcome.reasons.map((r) => reasonWords(r, labelOf)) }]
        : []),
      { kind: 'table', heads: ['Skill', 'Result', 'Points'], numbers: [2], weights: [4, 4, 2], rows: skills },
    ],
  };
}

function recordsSection(revisions: readonly Revision[], of: AttemptReportOf): ReportSection {
  return {
    heading: 'Signed records',
    blocks: [
      {
        kind: 'table',
        heads: ['Record', 'By', 'When', 'Result', 'Reason', 'Digest'],
        numbers: [],
        weights: [2.2, 2.6, 2.8, 1.8, 4, 2.6],
        rows: revisions.map((r) => [
          REVISION_KIND_WORDS[r.kind],
          r.signedBy,
          of.momentOf(r.signedAt),
          VERDICT_WORDS[r.outcome.verdict],
          r.reason ?? '',
          r.hash.slice(0, 16),
        ]),
      },
    ],
  };
}

function sourcesOf({ document: { sheet } }: AttemptReportOf): string[] {
  const all = sheet.steps
    .flatMap((s) => s.criteria)
    .flatMap((c) => ('source' in c && c.source ? [sourceWords(c.source)] : []));
  const named = [...new Set(all)];
  return named.length > 0 ? named : ['As the sheet says beside each limit.'];
}
