import { isOwnName, SKILLS, skillsOf, verdictOfMark } from '@clear-mark/core';
import { skillWords } from '@clear-mark/words';
import type { AttemptListFilter, Person } from '@clear-mark/contract';
import { stringify } from 'csv-stringify';
import type { Response } from 'express';
import { classForInstructor } from '../../classes/index.ts';
import type { Database } from '../../database/database.ts';
import { type AttemptCsvRow, csvStore } from './csv.store.ts';
import { readLabels } from '../labels.ts';

/** A spreadsheet runs text that starts like a formula: such text gets an apostrophe in front. */
export const plainText = (text: string): string => (/^[=+\-@\t\r]/.test(text) ? `'${text}` : text);

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
  'own_skills',
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

/** Where lines go: the head of the answer is sent with the first, so that a refusal before it is an answer of its own. */
interface Lines {
  readonly write: (line: readonly unknown[]) => void;
}

async function send(
  response: Response,
  file: string,
  columns: readonly string[],
  write: (csv: Lines) => Promise<void>,
): Promise<void> {
  const csv = stringify({ header: true, columns: [...columns], record_delimiter: 'windows' });
  let begun = false;
  const begin = (): void => {
    if (begun) return;
    begun = true;
    response.set('Content-Type', 'text/csv; charset=utf-8; header=present');
    response.set('Content-Disposition', `attachment; filename="${file}"`);
    csv.pipe(response);
  };
  try {
    await write({
      write: (line) => {
        begin();
        csv.write(line);
      },
    });
    begin();
    csv.end();
  } catch (error) {
    if (!begun) throw error;
    response.destroy(error as Error);
  }
}

export const csvService = (db: Database) => {
  const store = csvStore(db);
  return {
    attempts: async (
      classId: string,
      filter: AttemptListFilter,
      me: Person,
      response: Response,
    ): Promise<void> => {
      const { timeZone } = await classForInstructor(db, classId, me);
      await send(response, 'attempts.csv', ATTEMPT_COLUMNS, async (csv) => {
        for await (const page of store.pages(classId, filter, timeZone)) {
          for (const row of page) csv.write(attemptLine(row));
        }
      });
    },

    outcomes: async (
      classId: string,
      filter: AttemptListFilter,
      me: Person,
      response: Response,
    ): Promise<void> => {
      const { timeZone } = await classForInstructor(db, classId, me);
      const labels = await readLabels(db);
      await send(response, 'outcomes.csv', OUTCOME_COLUMNS, async (csv) => {
        for await (const page of store.pages(classId, filter, timeZone)) {
          const byId = new Map(page.map((row) => [row.id, row]));
          const outcomes = await store.outcomesOf([...byId.keys()]);
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
    ownSkillsOf(row.marks),
  ];
}

/** The verdicts in the school's own skills in one field: `Closure work: pass; Ducts: fail`. */
const ownSkillsOf = (marks: AttemptCsvRow['marks']): string =>
  skillsOf(marks)
    .filter(isOwnName)
    .map((skill) => `${skillWords(skill)}: ${verdictOfMark(marks[skill]!)}`)
    .join('; ');
