import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { readConfig } from '../src/index.ts';
import { type Caller, World } from './harness.ts';

interface SentSpan {
  readonly traceId: string;
  readonly spanId: string;
  readonly parentSpanId?: string;
  readonly name: string;
  readonly kind: number;
  readonly attributes: readonly {
    readonly key: string;
    readonly value: { readonly stringValue?: string; readonly intValue?: number };
  }[];
}
/** A collector that keeps what it is sent (OTLP 1.x over HTTP, as JSON). */
const spans: SentSpan[] = [];
const services = new Set<string | undefined>();
let collector: Server;
let world: World;
let api: Caller;

beforeAll(async () => {
  collector = createServer((request, response) => {
    let text = '';
    request.on('data', (part) => (text += String(part)));
    request.on('end', () => {
      const sent = JSON.parse(text) as {
        resourceSpans: { resource: Pick<SentSpan, 'attributes'>; scopeSpans: { spans: SentSpan[] }[] }[];
      };
      for (const { resource, scopeSpans } of sent.resourceSpans) {
        services.add(resource.attributes.find((a) => a.key === 'service.name')?.value.stringValue);
        for (const s of scopeSpans) spans.push(...s.spans);
      }
      response.writeHead(200, { 'Content-Type': 'application/json' }).end('{}');
    });
  });
  await new Promise<void>((done) => void collector.listen(0, '127.0.0.1', done));
  const { port } = collector.address() as AddressInfo;
  world = await World.make(undefined, undefined, { traces: `http://127.0.0.1:${port}` });
  api = await world.signedIn(await world.person('lead'));
});
afterAll(() => void collector.close());

const said = (span: SentSpan, key: string) =>
  span.attributes.find((a) => a.key === key)?.value.stringValue ??
  span.attributes.find((a) => a.key === key)?.value.intValue;

it('a request is a span within that of whoever asked, its questions to the database are spans in it', async () => {
  const traceId = '4bf92f3577b34da6a3ce929d0e0e4736';
  const caller = '00f067aa0ba902b7';
  const reply = await api.call('GET', '/classes', undefined, { traceparent: `00-${traceId}-${caller}-01` });
  expect(reply.status).toBe(200);
  expect((await api.get('/classes/0190aaaa-0000-7000-8000-000000000001/results')).status).toBe(404);
  // Stopping sends what is left.
  await world.close();
  expect([...services]).toEqual(['clear-mark']);
  const own = spans.filter((s) => s.traceId === traceId);
  const [request] = own.filter((s) => s.name === 'GET /api/classes');
  expect(request).toMatchObject({ parentSpanId: caller, kind: 2 });
  expect(said(request!, 'http.response.status_code')).toBe(200);
  const questions = own.filter((s) => s.parentSpanId === request!.spanId);
  expect(questions.length).toBeGreaterThan(0);
  for (const q of questions) {
    expect(q).toMatchObject({ name: 'SELECT', kind: 3 });
    expect(said(q, 'db.system.name')).toBe('postgresql');
  }
  // Addresses are told by their place in the list of routes.
  const other = spans.find((s) => s.name === 'GET /api/classes/:id/results');
  expect(said(other!, 'http.response.status_code')).toBe(404);
  // Values are not told, and what runs by itself makes no spans.
  expect(JSON.stringify(spans)).not.toContain('correct horse battery');
  expect(spans.filter((s) => s.kind === 3 && s.parentSpanId === undefined)).toEqual([]);
});

it('its setting is the usual one of OpenTelemetry, and no other address than http', () => {
  const base = { DATABASE_URL: 'postgres://localhost/x' };
  expect(readConfig(base).traces).toBeNull();
  expect(readConfig({ ...base, OTEL_EXPORTER_OTLP_ENDPOINT: '' }).traces).toBeNull();
  expect(readConfig({ ...base, OTEL_EXPORTER_OTLP_ENDPOINT: 'http://127.0.0.1:4318' }).traces).toBe(
    'http://127.0.0.1:4318',
  );
  expect(() => readConfig({ ...base, OTEL_EXPORTER_OTLP_ENDPOINT: 'grpc://x' })).toThrow(/OTEL/);
});
