import { isFail, isPass, type Verdict } from '@clear-mark/core';
import { v5 } from 'uuid';

/** A signed record, as a statement is made of it. */
export interface RecordToTell {
  readonly attemptId: string;
  readonly revision: number;
  readonly kind: string;
  readonly classId: string;
  readonly className: string;
  readonly traineeId: string;
  readonly traineeName: string;
  readonly signedById: string;
  readonly signedByName: string;
  readonly signedAt: string;
  readonly startedAt: string;
  readonly pieceLabel: string;
  readonly methodId: string;
  readonly methodVersion: number;
  readonly methodTitle: string;
  readonly verdict: Verdict;
  readonly earned: number;
  readonly possible: number;
}

export type Statement = Readonly<Record<string, unknown>> & { readonly id: string };

const VERBS = 'http://adlnet.gov/expapi/verbs/';
const ASSESSMENT = 'http://adlnet.gov/expapi/activities/assessment';
const COURSE = 'http://adlnet.gov/expapi/activities/course';
/** Of no meaning: it keeps the ids of statements apart from all other names that are hashed. */
const NAMESPACE = '5f0c6d0f-1d0e-5a0e-8a5b-7c1e9d3f4a26';

/** The same id for the same record whenever and by whomever it is told. */
const idOf = (name: string): string => v5(name, NAMESPACE);
export const statementId = (attemptId: string, revision: number): string => idOf(`${attemptId} ${revision}`);

const account = (home: string, id: string, name: string): object => ({
  objectType: 'Agent',
  name,
  account: { homePage: home, name: id },
});

function verbOf(verdict: Verdict): { id: string; display: object } {
  const word = isPass(verdict) ? 'passed' : isFail(verdict) ? 'failed' : 'attempted';
  return { id: VERBS + word, display: { en: word } };
}

/**
 * What a record says as an xAPI statement (IEEE 9274.1.1, 4.2): who passed or failed what by which method, with the points, who
 * signed, and in which class. A void or incomplete piece was attempted. `home` is the address by which the school is known.
 */
export function statementOf(record: RecordToTell, home: string): Statement {
  const { verdict, earned, possible } = record;
  const judged = isPass(verdict) || isFail(verdict);
  return {
    id: statementId(record.attemptId, record.revision),
    actor: account(home, record.traineeId, record.traineeName),
    verb: verbOf(verdict),
    object: {
      objectType: 'Activity',
      id: `${home}/methods/${record.methodId}/${record.methodVersion}`,
      definition: { type: ASSESSMENT, name: { en: record.methodTitle } },
    },
    result: {
      completion: verdict !== 'incomplete',
      ...(judged ? { success: isPass(verdict) } : {}),
      ...(judged && possible > 0
        ? { score: { scaled: earned / possible, raw: earned, min: 0, max: possible } }
        : {}),
    },
    context: {
      registration: record.attemptId,
      instructor: account(home, record.signedById, record.signedByName),
      contextActivities: {
        grouping: [
          {
            objectType: 'Activity',
            id: `${home}/classes/${record.classId}`,
            definition: { type: COURSE, name: { en: record.className } },
          },
        ],
      },
      extensions: {
        [`${home}/extensions/piece`]: record.pieceLabel,
        [`${home}/extensions/verdict`]: verdict,
        [`${home}/extensions/revision`]: record.revision,
      },
    },
    timestamp: new Date(record.startedAt).toISOString(),
  };
}

/** What is sent of a record: its statement, and for an amended one that the statement before it holds no longer. */
export function statementsOf(record: RecordToTell, home: string): Statement[] {
  if (record.revision === 1) return [statementOf(record, home)];
  const before = statementId(record.attemptId, record.revision - 1);
  return [
    statementOf(record, home),
    {
      id: idOf(`${before} voided`),
      actor: account(home, record.signedById, record.signedByName),
      verb: { id: `${VERBS}voided`, display: { en: 'voided' } },
      object: { objectType: 'StatementRef', id: before },
      timestamp: new Date(record.signedAt).toISOString(),
    },
  ];
}
