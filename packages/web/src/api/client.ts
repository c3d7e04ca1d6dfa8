import {
  ARCHIVE_PATHS,
  type ArchiveOutlook,
  type ErrorCode,
  isErrorCode,
  PICTURE_PATHS,
  type Problem,
  type Route,
  ROUTES,
} from '@clear-mark/contract';
import { errorWords } from '@clear-mark/words';
import type { z } from 'zod';

/** A refusal by the server, in words that a person can act on. */
export class Refusal extends Error {
  override readonly name = 'Refusal';
  constructor(
    readonly code: ErrorCode,
    readonly status: number,
    detail: string,
  ) {
    super(detail);
  }
}

/** The server was not reached: nothing is known about what it did. */
export class NoServer extends Error {
  override readonly name = 'NoServer';
}

type Input<T extends z.ZodType> = z.input<T>;
type Part = 'params' | 'query' | 'body';
/** What a request needs: parts that can be empty may be left out. */
export type Given<R extends Route> = {
  [K in Part as Record<string, never> extends Input<R[K]> ? never : K]: Input<R[K]>;
} & { [K in Part as Record<string, never> extends Input<R[K]> ? K : never]?: Input<R[K]> };

/** The one doorway to the server: shapes of requests and replies come from the contract. */
export async function request<R extends Route>(route: R, given: Given<R>): Promise<z.infer<R['reply']>> {
  const parts = given as { params?: object; query?: object; body?: unknown };
  const response = await reach(route, pathOf(route.path, parts.params, parts.query), parts.body);
  const type = response.headers.get('content-type') ?? '';
  if (!response.ok) throw await refusalOf(response, type);
  if (!type.includes('json')) throw new NoServer('the answer is not from Clear Mark');
  return (await bodyOf(response)) as z.infer<R['reply']>;
}

/** What a bench waits for is given up sooner than a count over a whole school. */
const QUICK: ReadonlySet<string> = new Set([
  ROUTES.sendEntries.path,
  ROUTES.catchUp.path,
  ROUTES.startAttempt.path,
  ROUTES.start.path,
]);
const QUICK_MS = 10_000;
const ANSWER_MS = 60_000;

async function reach(route: Route, path: string, body: unknown): Promise<Response> {
  const hasBody = route.method !== 'get' && route.method !== 'delete';
  try {
    return await fetch(path, {
      method: route.method.toUpperCase(),
      credentials: 'same-origin',
      // An answer that does not come is no server: what waits for it goes on with what the device has.
      signal: AbortSignal.timeout(QUICK.has(route.path) ? QUICK_MS : ANSWER_MS),
      ...(hasBody
        ? { body: JSON.stringify(body ?? {}), headers: { 'Content-Type': 'application/json' } }
        : {}),
    });
  } catch (error) {
    throw new NoServer(String(error));
  }
}

async function hexDigest(bytes: ArrayBuffer | Uint8Array<ArrayBuffer>): Promise<string> {
  const digest = await crypto.subtle.digest('SHA-256', bytes);
  return Array.from(new Uint8Array(digest), (b) => b.toString(16).padStart(2, '0')).join('');
}
export const sha256Hex = (text: string): Promise<string> => hexDigest(new TextEncoder().encode(text));

/** Sends a picture as it is, under its digest, and gives the digest back. */
export async function sendPicture(classId: string, picture: Blob): Promise<string> {
  const bytes = await picture.arrayBuffer();
  const sha256 = await hexDigest(bytes);
  const type = new Uint8Array(bytes)[0] === 0x89 ? 'image/png' : 'image/jpeg';
  const path = pathOf(PICTURE_PATHS.blob, { id: classId, sha256 });
  await reachFile(path, { method: 'PUT', body: bytes, headers: { 'Content-Type': type } });
  return sha256;
}

/** Sends the archive of a class: to be looked at, or to be taken in. Errors: `Refusal`, `NoServer`. */
export async function sendArchive(to: 'look' | 'take', archive: Blob): Promise<ArchiveOutlook> {
  const headers = { 'Content-Type': 'application/zip' };
  const response = await reachFile(ARCHIVE_PATHS[to], { method: 'PUT', body: archive, headers });
  return (await bodyOf(response)) as ArchiveOutlook;
}

/** Sends or fetches a file. Errors: `Refusal`, `NoServer`. */
export async function reachFile(path: string, request: RequestInit): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(path, { credentials: 'same-origin', ...request });
  } catch (error) {
    throw new NoServer(String(error));
  }
  if (!response.ok) throw await refusalOf(response, response.headers.get('content-type') ?? '');
  return response;
}

/** A body that was cut off is no answer: what the server did is unknown. */
export async function bodyOf(response: Response): Promise<unknown> {
  try {
    return await response.json();
  } catch (error) {
    throw new NoServer(String(error));
  }
}

async function refusalOf(response: Response, type: string): Promise<Error> {
  if (!type.includes('problem+json')) return new NoServer(`status ${response.status}`);
  const problem = (await bodyOf(response)) as Problem;
  if (problem.code === 'server.unavailable') return new NoServer(problem.detail);
  const code = isErrorCode(problem.code) ? problem.code : 'server.failed';
  return new Refusal(code, problem.status, problem.detail);
}

export function pathOf(path: string, params: object = {}, query: object = {}): string {
  const filled = path.replace(/:(\w+)/g, (_, name: string) =>
    encodeURIComponent(String((params as Record<string, unknown>)[name])),
  );
  const search = new URLSearchParams(
    Object.entries(query).flatMap(([k, v]) => (v === undefined || v === '' ? [] : [[k, String(v)]])),
  ).toString();
  return search === '' ? filled : `${filled}?${search}`;
}

/** A kept picture as it was sent. Errors: `Refusal`, `NoServer`. */
export async function fetchPicture(classId: string, faceId: string): Promise<Blob> {
  const response = await reachFile(pictureUrl(classId, faceId), { method: 'GET' });
  return response.blob();
}

/** Where a kept picture is, for an image to show; and one of a run of blind calls. */
export const pictureUrl = (classId: string, faceId: string): string =>
  pathOf(PICTURE_PATHS.face, { id: classId, faceId });
export const callPictureUrl = (runId: string, position: number): string =>
  pathOf(PICTURE_PATHS.call, { id: runId, position });

/** What to tell a person about any failure of a request. */
export function wordsOf(error: unknown): string {
  if (error instanceof Refusal) return error.message;
  if (error instanceof NoServer) {
    return 'The server does not answer. What you entered is kept on this device.';
  }
  return errorWords('server.failed');
}

export { ROUTES };
