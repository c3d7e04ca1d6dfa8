import { TRACE_MEDIA, TRACE_PATHS, type TraceRow } from '@clear-mark/contract';
import { bodyOf, pathOf, reachFile } from './client.ts';

export interface TraceFile {
  readonly id: string;
  readonly label: string;
  readonly source: 'file' | 'stand_in';
  readonly bytes: Uint8Array<ArrayBuffer>;
}

/** Keeps a trace file in a class, as it is. Errors: `Refusal`, `NoServer`. */
export async function sendTrace(classId: string, { id, label, source, bytes }: TraceFile): Promise<TraceRow> {
  const path = pathOf(TRACE_PATHS.trace, { id: classId, traceId: id }, { label, source });
  const headers = { 'Content-Type': TRACE_MEDIA };
  return (await bodyOf(await reachFile(path, { method: 'PUT', body: bytes, headers }))) as TraceRow;
}

/** A kept trace file as it came. Errors: `Refusal`, `NoServer`. */
export const fetchTrace = async (classId: string, traceId: string): Promise<ArrayBuffer> =>
  (await reachFile(traceUrl(classId, traceId), { method: 'GET' })).arrayBuffer();

/** A trace of a run that is read blind. Errors: `Refusal`, `NoServer`. */
export const fetchBlindTrace = async (runId: string, position: number): Promise<ArrayBuffer> =>
  (await reachFile(pathOf(TRACE_PATHS.blind, { id: runId, position }), { method: 'GET' })).arrayBuffer();

export const traceUrl = (classId: string, traceId: string): string =>
  pathOf(TRACE_PATHS.trace, { id: classId, traceId });
