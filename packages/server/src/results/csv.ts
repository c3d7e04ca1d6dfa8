import { SKILLS, verdictOfMark } from '@clear-mark/core';
import type { AttemptListFilter, Person } from '@clear-mark/contract';
import { stringify, type Stringifier } from 'csv-stringify';
import type { Response } from 'express';
import { classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { listCondition } from './attempt-list.ts';
import { readLabels } from './labels.ts';

const PAGE = 1000;

/** A spreadsheet runs text that starts like a formula: such text gets an apostrophe in front. */
export const plainText = (text: string): string => (/^[=+\-@\t\r]/.test(text) ? `'${text}` : text);

interface AttemptCsvRow {
  readonly id: string;
  readonly started: string;
  readonly startedAt: string;
  readonly trainee: string;
  readonly piece: string;
  readonly method: string;
  readonly version: number;
  readonly marks: Readonly<Record<string, string>>;
  readonly losses: readonly { nm: number; db: number | null; limit: number }[];
  readonly things: readonly { kind: string; label: string }[];
  readonly kind: string;
  readonly signer: string;
  readonly reason: string | null;
}

const ATTEMPT_COLUMNS = [
  'attempt',
  'started',
  'trainee',
  'piece',
  'method',
  'version',
  'verdict',
  ...SKILLS,
  'loss_1310_db',
  'loss_1550_db',
  'limit_db',
  'bench',
  'cleaver',
  'scope',
  'instrument',
  'cord',
  'signed_as',
  'signed_by',
  'reason',
];
const OUTCOME_COLUMNS = [
  'attempt',
  'started',
  'trainee',
  'piece',
  'criterion',
  'label',
  'step',
  'skill',
  'verdict',
  'points',
  'earned',
  'value',
  'faults',
];

export const csvService = (db: Database) => {
  /** Pages through the attempts by (start, id), so that a long course does not sit in memory. */
  async function* pages(classId: string, filter: AttemptListFilter, timeZone: string): AsyncGenerator<AttemptCsvRow[]> {
    const where = listCondition({ classId, timeZone }, filter);
    let after: [string, string] = ['-infinity', '00000000-0000-0000-0000-000000000000'];
    for (;;) {
      const { rows } = await db.raw(
        `select a.id, a.started_at as "startedAt",
                to_char(a.started_at at time zone ?, 'YYYY-MM-DD"T"HH24:MI:SS') as started,
                p.name as trainee, i.label as piece, v.method_id as method, v.version, r.kind,
                s.name as signer, r.reason,
                (select json_object_agg(x.skill, x.mark) from outcome_skills x where x.attempt_id = a.id) as marks,
                coalesce((select json_agg(json_build_object('nm', l.wavelength_nm, 'db', l.loss_db, 'limit', l.limit_db))
                   from outcome_losses l where l.attempt_id = a.id), '[]') as losses,
                coalesce((select json_agg(json_build_object('kind', t.kind, 'label', t.label))
                   from attempt_things at join things t on t.id = at.thing_id where at.attempt_id = a.id), '[]') as things
           from outcome_skills o
           join attempts a on a.id = o.attempt_id
           join people p on p.id = a.trainee_id
           join pieces i on i.id = a.piece_id
           join method_versions v on v.id = a.method_version_id
           join lateral (select kind, reason, signed_by from signed_revisions where attempt_id = a.id
                          order by revision desc limit 1) r on true
           join people s on s.id = r.signed_by
          where ${where.sql} and (o.started_at, o.attempt_id) > (?::timestamptz, ?::uuid)
          order by o.started_at, o.attempt_id
          limit ?`,
        [timeZone, ...where.bindings, ...after, PAGE] as never,
      );
      if (rows.length === 0) return;
      yield rows;
      const last = rows[rows.length - 1];
      after = [last.startedAt, last.id];
    }
  }

  const send = async (
    response: Response,
    file: string,
    columns: readonly string[],
    write: (csv: Stringifier) => Promise<void>,
  ): Promise<void> => {
    response.set('Content-Type', 'text/csv; charset=utf-8; header=present');
    response.set('Content-Disposition', `attachment; filename="${file}"`);
    const csv = stringify({ header: true, columns: [...columns], record_delimiter: 'windows' });
    csv.pipe(response);
    try {
      await write(csv);
      csv.end();
    } catch (error) {
      response.destroy(error as Error);
    }
  };

  return {
    attempts: async (classId: string, filter: AttemptListFilter, me: Person, response: Response): Promise<void> => {
      const { timeZone } = await classForInstructor(db, classId, me);
      await send(response, 'attempts.csv', ATTEMPT_COLUMNS, async (csv) => {
        for await (const page of pages(classId, filter, timeZone)) {
          for (const row of page) csv.write(attemptLine(row));
        }
      });
    },

    outcomes: async (classId: string, filter: AttemptListFilter, me: Person, response: Response): Promise<void> => {
      const { timeZone } = await classForInstructor(db, classId, me);
      const labels = await readLabels(db);
      await send(response, 'outcomes.csv', OUTCOME_COLUMNS, async (csv) => {
        for await (const page of pages(classId, filter, timeZone)) {
          const byId = new Map(page.map((row) => [row.id, row]));
          const outcomes: CriterionCsvRow[] = await db('outcome_criteria')
            .select('attempt_id', 'criterion_id', 'skill', 'mark', 'points', 'lost', 'value', 'faults')
            .whereIn('attempt_id', [...byId.keys()])
            .orderBy('started_at')
            .orderBy('attempt_id')
            .orderBy('criterion_id');
          for (const o of outcomes) {
            const row = byId.get(o.attempt_id)!;
            const label = labels.criteria.get(o.criterion_id);
            csv.write([
              row.id,
              row.started,
              plainText(row.trainee),
              plainText(row.piece),
              o.criterion_id,
              label?.label ?? '',
              label?.stepTitle ?? '',
              o.skill,
              verdictOfMark(o.mark),
              o.points,
              o.points - o.lost,
              o.value ?? '',
              o.faults.join(' '),
            ]);
          }
        }
      });
    },
  };
};

interface CriterionCsvRow {
  readonly attempt_id: string;
  readonly criterion_id: string;
  readonly skill: string;
  readonly mark: string;
  readonly points: number;
  readonly lost: number;
  readonly value: number | null;
  readonly faults: readonly string[];
}

function attemptLine(row: AttemptCsvRow): unknown[] {
  const loss = (nm: number): number | string => row.losses.find((l) => l.nm === nm)?.db ?? '';
  const thing = (kind: string): string => plainText(row.things.find((t) => t.kind === kind)?.label ?? '');
  return [
    row.id,
    row.started,
    plainText(row.trainee),
    plainText(row.piece),
    row.method,
    row.version,
    verdictOfMark(row.marks['whole'] ?? 'I'),
    ...SKILLS.map((skill) => (row.marks[skill] === undefined ? '' : verdictOfMark(row.marks[skill]))),
    loss(1310),
    loss(1550),
    row.losses[0]?.limit ?? '',
    thing('bench'),
    thing('cleaver'),
    thing('scope'),
    thing('instrument'),
    thing('cord'),
    row.kind,
    plainText(row.signer),
    plainText(row.reason ?? ''),
  ];
}
