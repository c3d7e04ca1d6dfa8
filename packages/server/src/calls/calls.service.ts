import type {
  CallAnswerBody,
  CallSeries,
  FinishedRun,
  NewSeriesBody,
  OwnSeries,
  Person,
} from '@clear-mark/contract';
import { agreementOf, type Call, type CallsResult, judgeCalls } from '@clear-mark/core';
import type { z } from 'zod';
import { classForInstructor, classForMember } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { createOnce } from '../database/create-once.ts';
import { AppError } from '../errors/app-error.ts';
import {
  type AnswerRow,
  callsStore,
  type ItemRow,
  type RunRow,
  type SeenRow,
  type SeriesRow,
} from './calls.store.ts';
import { type PictureStorage, wholePicture } from '../pictures/index.ts';
import { attemptOfCalls } from './calls-attempt.ts';

/** A series tells something only with bad faces and good ones. */
const LEAST_OF_EACH = 2;

export const callsService = (db: Database, storage: PictureStorage | null) => ({
  /** A series of kept pictures; what each is is fixed when the series is made. */
  add: async (classId: string, body: NewSeriesBody, me: Person): Promise<void> => {
    await classForInstructor(db, classId, me);
    await createOnce(
      () =>
        db.transaction(async (trx) => {
          const items = await itemsOf(trx, classId, body.faceIds);
          await callsStore(trx).insert({ ...body, classId, madeBy: me.id }, items);
          return true;
        }),
      async () => {
        const there = await callsStore(db).byId(body.id);
        const same = there?.classId === classId && there.label === body.label;
        return same && (await callsStore(db).items([body.id])).length === body.faceIds.length ? true : null;
      },
      () => true,
    );
  },

  list: async (classId: string, me: Person): Promise<CallSeries[]> => {
    await classForInstructor(db, classId, me);
    const store = callsStore(db);
    const series = await store.ofClass(classId);
    const ids = series.map((s) => s.id);
    const items = await store.items(ids);
    const runs = await store.runs(ids);
    const answers = await store.answers(runs.map((r) => r.id));
    return series.map((s) =>
      seriesOf(
        s,
        items.filter((i) => i.seriesId === s.id),
        runs.filter((r) => r.seriesId === s.id),
        answers,
      ),
    );
  },

  own: async (me: Person): Promise<OwnSeries[]> => {
    const store = callsStore(db);
    const found = await store.forPerson(me);
    return Promise.all(
      found.map(async ({ runId, ...series }): Promise<OwnSeries> => {
        const run = runId === null ? null : await store.run(runId);
        if (!run) return { ...series, run: null };
        const answers = await store.answers([run.id]);
        const finished = run.finishedAt !== null;
        const weight = (await store.byId(series.id))!.missWeight;
        const result = finished ? resultOf(await store.items([series.id]), answers, weight) : null;
        return { ...series, run: { id: run.id, answered: answers.length, finished, result } };
      }),
    );
  },

  /** Begins a run, or goes on with the one that this person has begun. */
  start: (seriesId: string, runId: string, me: Person, now: Date) =>
    db.transaction(async (trx) => {
      const store = callsStore(trx);
      const series = await store.byId(seriesId);
      if (!series) throw new AppError('not_found.series');
      await classForMember(trx, series.classId, me);
      await store.insertRun({ id: runId, seriesId, personId: me.id, startedAt: now.toISOString() });
      const run = (await store.runOf(seriesId, me.id))!;
      const answers = await store.answers([run.id]);
      return { id: run.id, answered: answers.map((a) => a.position) };
    }),

  answer: (runId: string, body: z.infer<typeof CallAnswerBody>, me: Person): Promise<void> =>
    db.transaction((trx) => answerWithin(trx, runId, body, me)),

  /** The end: from now on no call is taken, and what the faces were may be seen. Twice gives the same. */
  finish: (runId: string, me: Person, now: Date): Promise<FinishedRun> =>
    db.transaction((trx) => finishRun(trx, runId, me, now)),

  picture: async (runId: string, position: number, me: Person) => {
    const run = await ownRun(db, runId, me);
    const picture = await callsStore(db).pictureAt(run.seriesId, position);
    if (!picture) throw new AppError('series.no_such_face');
    return { mediaType: picture.mediaType, bytes: await wholePicture(storage, picture) };
  },
});

async function answerWithin(
  trx: Database,
  runId: string,
  body: z.infer<typeof CallAnswerBody>,
  me: Person,
): Promise<void> {
  const store = callsStore(trx);
  await store.lockRun(runId);
  const run = await ownRun(trx, runId, me);
  if (run.finishedAt !== null) throw new AppError('series.finished');
  const items = await store.items([run.seriesId]);
  if (body.position >= items.length) throw new AppError('series.no_such_face');
  if (await store.addAnswer({ ...body, runId })) return;
  // Sent again it is no harm; another call of the same face is refused.
  const there = (await store.answers([runId])).find((a) => a.position === body.position)!;
  if (there.said !== body.said) throw new AppError('series.other_answer');
}

async function finishRun(trx: Database, runId: string, me: Person, now: Date): Promise<FinishedRun> {
  const store = callsStore(trx);
  await store.lockRun(runId);
  const run = await ownRun(trx, runId, me);
  const series = (await store.byId(run.seriesId))!;
  const items = await store.items([series.id]);
  const answers = await store.answers([runId]);
  const result = resultOf(items, answers, series.missWeight);
  const seen = await store.seen(series.id);
  let { attemptId } = run;
  if (run.finishedAt === null) {
    attemptId = await attemptOfCalls(trx, { series, run, result, me, now });
    await store.finish(runId, now.toISOString(), attemptId);
  }
  return { result, attemptId, calls: items.map((item) => reviewedCall(item, answers, seen)) };
}

/** The run, when it is this person's: nobody else's may even be known. */
async function ownRun(db: Database, runId: string, me: Person): Promise<RunRow> {
  const run = await callsStore(db).run(runId);
  if (!run || run.personId !== me.id) throw new AppError('not_found.run');
  return run;
}

async function itemsOf(db: Database, classId: string, faceIds: readonly string[]) {
  const rows = await callsStore(db).facesGraded(classId, faceIds);
  const byId = new Map(rows.map((r) => [r.id, r]));
  const found = faceIds.map((id) => byId.get(id));
  if (found.some((f) => f === undefined)) throw new AppError('not_found.face');
  const open = found.filter((f) => f!.verdict === null).length;
  if (open > 0) throw new AppError('series.not_graded', { count: open });
  const bad = found.filter((f) => f!.verdict === 'fail').length;
  if (bad < LEAST_OF_EACH || found.length - bad < LEAST_OF_EACH) throw new AppError('series.one_sided');
  return found.map((f, position) => ({
    position,
    faceId: f!.id,
    reference: f!.verdict!,
    faults: f!.faults,
  }));
}

function resultOf(items: readonly ItemRow[], answers: readonly AnswerRow[], missWeight: number): CallsResult {
  return judgeCalls(
    items.map((item) => {
      const answer = answers.find((a) => a.position === item.position);
      return {
        reference: item.reference,
        said: answer?.said ?? null,
        kinds: item.faults,
        ms: answer?.ms ?? null,
      };
    }),
    missWeight,
  );
}

function reviewedCall(
  item: ItemRow,
  answers: readonly AnswerRow[],
  seen: readonly SeenRow[],
): FinishedRun['calls'][number] {
  const there = seen.find((s) => s.position === item.position);
  const answer = answers.find((a) => a.position === item.position);
  return {
    position: item.position,
    reference: item.reference,
    said: answer?.said ?? null,
    faults: [...item.faults],
    marks: answer?.marks ?? [],
    ms: answer?.ms ?? null,
    seen: there ? seenOn(there) : null,
  };
}

/** What was found on a single face, as it is drawn over its picture. */
function seenOn({ width, height, engine }: SeenRow): FinishedRun['calls'][number]['seen'] {
  if (!engine.ok || !('features' in engine)) return null;
  return {
    width,
    height,
    umPerPx: engine.umPerPx,
    centrePx: engine.centrePx,
    claddingDiameterPx: engine.claddingDiameterPx,
    features: engine.features.map(({ kind, sizeUm, xUm, yUm, outlineUm }) => ({
      kind,
      sizeUm,
      xUm,
      yUm,
      outlineUm: kind === 'scratch' ? [...outlineUm] : [],
    })),
  };
}

function seriesOf(
  series: SeriesRow,
  items: readonly ItemRow[],
  runs: readonly RunRow[],
  allAnswers: readonly AnswerRow[],
): CallSeries {
  const answersOf = (run: RunRow): AnswerRow[] => allAnswers.filter((a) => a.runId === run.id);
  const { classId: _, ...head } = series;
  return {
    ...head,
    faces: items.length,
    bad: items.filter((i) => i.reference === 'fail').length,
    runs: runs.map((run) => {
      const answers = answersOf(run);
      return {
        ...run,
        answered: answers.length,
        result: run.finishedAt === null ? null : resultOf(items, answers, series.missWeight),
      };
    }),
    agreements: agreements(
      items,
      runs.filter((r) => r.finishedAt !== null),
      answersOf,
    ),
  };
}

/** Each pair of people who finished the same series. */
function agreements(
  items: readonly ItemRow[],
  runs: readonly RunRow[],
  answersOf: (run: RunRow) => readonly AnswerRow[],
): CallSeries['agreements'] {
  const saidBy = (run: RunRow): (Call | null)[] => {
    const answers = new Map(answersOf(run).map((a) => [a.position, a.said]));
    return items.map((i) => answers.get(i.position) ?? null);
  };
  return runs.flatMap((one, i) =>
    runs.slice(i + 1).map((other) => {
      const { n, same, kappa } = agreementOf(saidBy(one), saidBy(other));
      const known = kappa.kind === 'kappa' ? kappa : null;
      return {
        one: one.personName,
        other: other.personName,
        n,
        same,
        kappa: known?.kappa ?? null,
        low: known?.low ?? null,
        high: known?.high ?? null,
      };
    }),
  );
}
