import { isOwnName, SKILLS, skillsOf, verdictOfMark } from '@clear-mark/core';
import { skillWords } from '@clear-mark/words';
import type { AttemptListFilter, Person } from '@clear-mark/contract';
import type { Response } from 'express';
import { classForInstructor } from '../../classes/index.ts';
import { record } from '../../audit/index.ts';
import type { Database } from '../../database/database.ts';
import { plainText, sendCsv } from '../../http/csv.ts';
import { type AttemptCsvRow, csvStore } from './csv.store.ts';
import { readLabels } from '../labels.ts';

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
      await record(db, { kind: 'export', by: me.id, classId, detail: 'attempts as CSV' });
      await sendCsv(response, 'attempts.csv', ATTEMPT_COLUMNS, async (csv) => {
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
      await record(db, { kind: 'export', by: me.id, classId, detail: 'outcomes as CSV' });
      const labels = await readLabels(db);
      await sendCsv(response, 'outcomes.csv', OUTCOME_COLUMNS, async (csv) => {
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
