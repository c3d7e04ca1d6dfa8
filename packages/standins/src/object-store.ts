import { createHash, createHmac, timingSafeEqual } from 'node:crypto';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { bytesOf, listenOnLoopback } from './loopback.ts';

export interface ObjectStoreOptions {
  readonly port?: number;
  readonly bucket?: string;
  readonly key?: string;
  readonly secret?: string;
  /** Told of each request with how it was answered. */
  readonly onRequest?: (line: string) => void;
}
export interface RunningObjectStore {
  readonly port: number;
  /** Address of the bucket. */
  readonly url: string;
  readonly key: string;
  readonly secret: string;
  /** What lies in the bucket, by name. */
  readonly objects: Map<string, StoredObject>;
  /** Answers the next so many requests with a status, as a store does that is not well. */
  readonly answerNext: (status: number, times: number) => void;
  readonly stop: () => Promise<void>;
}
export interface StoredObject {
  readonly type: string;
  readonly bytes: Buffer;
}

const LONGEST_BODY = 64_000_000;
const LATE_MS = 15 * 60_000;
const CREDENTIAL =
  /^AWS4-HMAC-SHA256 Credential=([^/]+)\/(\d{8})\/([^/]+)\/s3\/aws4_request, ?SignedHeaders=([a-z0-9;-]+), ?Signature=([0-9a-f]{64})$/;

const sha256 = (of: string | Buffer): string => createHash('sha256').update(of).digest('hex');
const hmac = (key: string | Buffer, text: string): Buffer => createHmac('sha256', key).update(text).digest();

/**
 * A simulated object store on loopback that speaks what of the S3 protocol an application needs for whole objects: PUT, GET, HEAD and
 * DELETE by path, signed by version 4 of its signature (Signature Version 4 signing process, written from memory), checked here by a
 * computation of its own. It forgets everything when it stops. `POST /answer` with `{"status": 503, "times": 3}` makes it fail.
 */
export async function startObjectStore(options: ObjectStoreOptions = {}): Promise<RunningObjectStore> {
  const { bucket = 'pictures', key = 'stand-in', secret = 'stand-in-secret' } = options;
  const objects = new Map<string, StoredObject>();
  let failing = { status: 503, times: 0 };

  function object(request: IncomingMessage, name: string, body: Buffer, response: ServerResponse): number {
    const found = objects.get(name);
    switch (request.method) {
      case 'PUT':
        objects.set(name, { type: String(request.headers['content-type'] ?? ''), bytes: body });
        response.writeHead(200, { ETag: `"${createHash('md5').update(body).digest('hex')}"` }).end();
        return 200;
      case 'DELETE':
        objects.delete(name);
        response.writeHead(204).end();
        return 204;
      case 'GET':
      case 'HEAD':
        if (!found) return refuse(response, 404, 'NoSuchKey');
        response.writeHead(200, { 'Content-Type': found.type, 'Content-Length': found.bytes.length });
        response.end(request.method === 'GET' ? found.bytes : undefined);
        return 200;
      default:
        return refuse(response, 405, 'MethodNotAllowed');
    }
  }
  async function answer(request: IncomingMessage, response: ServerResponse): Promise<number> {
    const body = await bytesOf(request, LONGEST_BODY);
    const { pathname } = new URL(request.url ?? '/', 'http://store');
    if (pathname === '/answer' && request.method === 'POST') {
      failing = JSON.parse(body.toString()) as typeof failing;
      response.writeHead(204).end();
      return 204;
    }
    if (failing.times > 0) {
      failing = { ...failing, times: failing.times - 1 };
      return refuse(response, failing.status, 'SlowDown');
    }
    const wrong = whatIsWrong(request, body, key, secret);
    if (wrong !== null) return refuse(response, 403, wrong);
    const [, first, ...rest] = pathname.split('/');
    if (first !== bucket) return refuse(response, 404, 'NoSuchBucket');
    const name = decodeURIComponent(rest.join('/'));
    return name === '' ? refuse(response, 400, 'InvalidArgument') : object(request, name, body, response);
  }
  const server = createServer((request, response) => {
    answer(request, response).then(
      (status) => options.onRequest?.(`${request.method ?? ''} ${request.url ?? ''} ${status}`),
      () => response.writeHead(400).end(),
    );
  });
  const running = await listenOnLoopback(server, options.port ?? 0);
  return {
    ...running,
    url: `http://127.0.0.1:${running.port}/${bucket}`,
    key,
    secret,
    objects,
    answerNext: (status, times) => (failing = { status, times }),
  };
}

function refuse(response: ServerResponse, status: number, code: string): number {
  response
    .writeHead(status, { 'Content-Type': 'application/xml' })
    .end(`<?xml version="1.0" encoding="UTF-8"?>\n<Error><Code>${code}</Code></Error>`);
  return status;
}

/** The code of what is wrong with the signature of a request; null where it fits. */
function whatIsWrong(request: IncomingMessage, body: Buffer, key: string, secret: string): string | null {
  const parts = CREDENTIAL.exec(request.headers.authorization ?? '');
  if (!parts) return 'AccessDenied';
  const [, who, day, region, signed, signature] = parts as unknown as [string, ...string[]];
  if (who !== key) return 'InvalidAccessKeyId';
  const at = String(request.headers['x-amz-date'] ?? '');
  const when = Date.parse(at.replace(/^(\d{4})(\d\d)(\d\d)T(\d\d)(\d\d)(\d\d)Z$/, '$1-$2-$3T$4:$5:$6Z'));
  if (!(Math.abs(Date.now() - when) < LATE_MS) || !at.startsWith(day!)) return 'RequestTimeTooSkewed';
  const payload = String(request.headers['x-amz-content-sha256'] ?? '');
  if (payload !== 'UNSIGNED-PAYLOAD' && payload !== sha256(body)) return 'XAmzContentSHA256Mismatch';
  const url = new URL(request.url ?? '/', 'http://store');
  const query = [...url.searchParams].map(([n, v]) => `${encodeURIComponent(n)}=${encodeURIComponent(v)}`);
  const headers = signed!.split(';').map((name) => `${name}:${String(request.headers[name] ?? '').trim()}\n`);
  const canonical = [
    request.method,
    url.pathname,
    query.sort().join('&'),
    headers.join(''),
    signed,
    payload,
  ].join('\n');
  const scope = `${day!}/${region!}/s3/aws4_request`;
  const text = ['AWS4-HMAC-SHA256', at, scope, sha256(canonical)].join('\n');
  const signingKey = [day!, region!, 's3', 'aws4_request'].reduce<Buffer>(
    (derived, part) => hmac(derived, part),
    Buffer.from(`AWS4${secret}`),
  );
  const wanted = hmac(signingKey, text);
  return timingSafeEqual(wanted, Buffer.from(signature!, 'hex')) ? null : 'SignatureDoesNotMatch';
}
