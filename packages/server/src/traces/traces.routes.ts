import {
  type ErrorCode,
  FILES,
  Id,
  MOST_KEPT_TRACE_BYTES,
  type Person,
  QueryWhole,
  ROUTES,
  TRACE_MEDIA,
  TraceFileQuery,
} from '@clear-mark/contract';
import express, { type RequestHandler, type Response, type Router } from 'express';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { handle, handleFile, requireAccess, requireText } from '../http/handle.ts';
import { acquireSor } from '../instruments/index.ts';
import { judgeReading } from './judge-reading.service.ts';
import { traceRunsService, traceSeriesService } from './series.service.ts';
import { onlyLabel, tracesService } from './traces.service.ts';

const DONE = { done: true } as const;

export function traceRoutes(router: Router, db: Database, now: () => Date): void {
  const traces = tracesService(db);
  handle(router, ROUTES.traces, ({ params, me }) => traces.list(params.id, me));
  handle(router, ROUTES.describeTrace, ({ params, body, me }) =>
    traces.describe(params.id, params.traceId, body, me),
  );
  handle(router, ROUTES.readTrace, ({ params, body, me }) =>
    judgeReading(db, params.id, params.traceId, body, me, now()),
  );
  handle(router, ROUTES.acquireTrace, async ({ params, body, me }) => {
    const { id, thingId, wavelengthNm, pulseNs, rangeM, averages, groupIndex, ...about } = body;
    await traces.mayPut(params.id, 0, me);
    const order = { wavelengthNm, pulseNs, rangeM, averages, groupIndex };
    const bytes = await acquireSor(db, params.id, thingId, order);
    return traces.keep(params.id, { id, bytes, about, source: 'instrument' }, me, now());
  });

  const raw = express.raw({ type: () => true, limit: MOST_KEPT_TRACE_BYTES });
  // Who sends and how much is asked before any of it is read.
  const allowed: RequestHandler = async (request, response, next) => {
    const size = Number(request.get('content-length') ?? Number.NaN);
    const classId = idOf(request.params['id'], 'not_found.class');
    await traces.mayPut(classId, Number.isInteger(size) ? size : null, signedIn(response));
    next();
  };
  router.put(FILES.keepTraceFile.path, allowed, raw, async (request, response) => {
    const me = signedIn(response);
    const classId = idOf(request.params['id'], 'not_found.class');
    const id = idOf(request.params['traceId'], 'not_found.trace');
    requireText(request.query);
    const { label, source } = TraceFileQuery.parse(request.query);
    const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    response.json(await traces.keep(classId, { id, bytes, about: onlyLabel(label), source }, me, now()));
  });
  handleFile(router, FILES.traceFile, async ({ id, me, response }) => {
    sendTrace(response, await traces.file(id('id', 'not_found.class'), id('traceId', 'not_found.trace'), me));
  });
  seriesRoutes(router, db, now);
}

function seriesRoutes(router: Router, db: Database, now: () => Date): void {
  const series = traceSeriesService(db);
  const runs = traceRunsService(db);
  handle(router, ROUTES.traceSeries, ({ params, me }) => series.list(params.id, me));
  handle(router, ROUTES.addTraceSeries, async ({ params, body, me }) => {
    await series.add(params.id, body, me);
    return DONE;
  });
  handle(router, ROUTES.ownTraceSeries, ({ me }) => series.own(me));
  handle(router, ROUTES.startTraceRun, ({ params, body, me }) => runs.start(params.id, body.id, me, now()));
  handle(router, ROUTES.answerTrace, async ({ params, body, me }) => {
    await runs.answer(params.id, body, me);
    return DONE;
  });
  handle(router, ROUTES.finishTraceRun, ({ params, me }) => runs.finish(params.id, me, now()));
  handleFile(router, FILES.blindTrace, async ({ id, me, request, response }) => {
    const runId = id('id', 'not_found.run');
    const position = QueryWhole.safeParse(request.params['position']);
    if (!position.success) throw new AppError('series.no_such_trace');
    sendTrace(response, await runs.blind(runId, position.data, me));
  });
}

/** A kept file never changes: the browser may keep it for itself. */
function sendTrace(response: Response, bytes: Buffer): void {
  response
    .set('Cache-Control', 'private, max-age=86400, immutable')
    .set('X-Content-Type-Options', 'nosniff')
    .type(TRACE_MEDIA)
    .send(bytes);
}

function signedIn(response: Response): Person {
  const me = response.locals['me'] as Person | null;
  requireAccess('instructor', me);
  return me!;
}

function idOf(text: unknown, missing: ErrorCode): string {
  const id = Id.safeParse(text);
  if (!id.success) throw new AppError(missing);
  return id.data;
}
