import type { JudgedTraceReading, Person, TraceReadingBody } from '@clear-mark/contract';
import {
  analyseTrace,
  type EntryValue,
  judgeTraceReading,
  linkOnTrace,
  markWithinM,
  linkLoss,
  openTraceFile,
  type TraceReading,
  type TraceSetUp,
  traceSetUp,
} from '@clear-mark/core';
import type { z } from 'zod';
import { enterComputed } from '../attempts/index.ts';
import { classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { tracesStore } from './traces.store.ts';

/**
 * Judges what a trainee marked on a kept trace against what is on it, and enters the figures on the sheet that the trace is kept with, where
 * its method asks for them. Errors: `not_found.trace`, `not_found.attempt`, `trace.attempt_signed`.
 */
export async function judgeReading(
  db: Database,
  classId: string,
  traceId: string,
  { marks, lossDb }: z.infer<typeof TraceReadingBody>,
  me: Person,
  now: Date,
): Promise<JudgedTraceReading> {
  await classForInstructor(db, classId, me);
  const store = tracesStore(db);
  const row = await store.byId(classId, traceId);
  const file = await store.file(classId, traceId);
  if (!row || !file) throw new AppError('not_found.trace');
  const { traces, marksM } = openTraceFile(file.bytes);
  const trace = traces[0]!;
  const analysis = analyseTrace(trace);
  const reading = judgeTraceReading(analysis.events, marks, markWithinM(trace));
  const range = linkOnTrace(analysis, marksM, row.launchM, row.receiveM);
  const loss = linkLoss(trace, analysis, range);
  const apart = lossDb === null || loss.lossDb === null ? null : Math.abs(lossDb - loss.lossDb);
  const entered =
    row.attemptId === null
      ? 0
      : await enterComputed(db, {
          attemptId: row.attemptId,
          classId,
          values: valuesOf(reading, apart),
          whereOpen: checksOf(traceSetUp(trace, analysis, range)),
          me,
          now,
        });
  return { reading, linkLossDb: loss.lossDb, entered };
}

/** The set-up as the trace shows it, for the checks that nobody has made yet. */
function checksOf(shown: TraceSetUp): [name: string, value: EntryValue][] {
  const names = [
    ['launch-longer', shown.launchLonger, 'launch_too_short'],
    ['receive-cord', shown.receiveCord, 'receive_cord_missing'],
    ['range', shown.range, 'range_wrong'],
    ['pulse', shown.pulse, 'pulse_wrong'],
    ['index', shown.index, 'index_wrong'],
  ] as const;
  return names.flatMap(([name, passed, fault]): [string, EntryValue][] =>
    passed === null ? [] : [[name, { kind: 'check', passed, ...(passed ? {} : { faults: [fault] }) }]],
  );
}

/** As the criteria of the method *OTDR test of a link* take them. */
function valuesOf(reading: TraceReading, apartDb: number | null): [name: string, value: EntryValue][] {
  const measure = (value: number, unit: 'dB' | '1'): EntryValue => ({
    kind: 'measure',
    text: value.toFixed(3),
    unit,
  });
  return [
    ...(reading.events === 0
      ? []
      : [['events-found', measure(reading.found / reading.events, '1')] as [string, EntryValue]]),
    ['events-invented', { kind: 'count', count: reading.invented }],
    ['ghosts-called', { kind: 'count', count: reading.ghostsCalled }],
    ...(apartDb === null ? [] : [['loss-apart', measure(apartDb, 'dB')] as [string, EntryValue]]),
  ];
}
