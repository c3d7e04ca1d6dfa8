import type { IncomingMessage, RequestListener } from 'node:http';
import { context, propagation, type Span, SpanKind, SpanStatusCode, trace } from '@opentelemetry/api';
import { OTLPTraceExporter } from '@opentelemetry/exporter-trace-otlp-http';
import { resourceFromAttributes } from '@opentelemetry/resources';
import { BatchSpanProcessor, NodeTracerProvider } from '@opentelemetry/sdk-trace-node';
import type { Database } from '../database/database.ts';

const NAME = 'clear-mark';
const SERVER_ERROR = 500;

/**
 * Traces of OpenTelemetry, sent to a collector by OTLP over HTTP: a span a request, and one in it for each question to the database.
 * Names of spans and attributes by its semantic conventions for HTTP and databases. Gives what sends the rest and stops.
 */
export function startTracing(collector: string): () => Promise<void> {
  const exporter = new OTLPTraceExporter({ url: `${collector.replace(/\/$/, '')}/v1/traces` });
  const provider = new NodeTracerProvider({
    resource: resourceFromAttributes({ 'service.name': NAME }),
    spanProcessors: [new BatchSpanProcessor(exporter)],
  });
  provider.register();
  // A collector that is away must not keep the server from ending.
  return () => provider.shutdown().catch(() => undefined);
}

/** A span a request, within that of whoever asked (`traceparent`, W3C Trace Context). */
export const tracedRequests =
  (listener: RequestListener): RequestListener =>
  (request, response) => {
    const caller = propagation.extract(context.active(), request.headers);
    const method = request.method ?? '';
    const path = (request.url ?? '').split('?')[0]!;
    const span = trace
      .getTracer(NAME)
      .startSpan(
        method,
        { kind: SpanKind.SERVER, attributes: { 'http.request.method': method, 'url.path': path } },
        caller,
      );
    response.once('close', () => {
      const route = routeOf(request, path);
      if (route !== null) span.updateName(`${method} ${route}`).setAttribute('http.route', route);
      span.setAttribute('http.response.status_code', response.statusCode);
      if (response.statusCode >= SERVER_ERROR) span.setStatus({ code: SpanStatusCode.ERROR });
      span.end();
    });
    context.with(trace.setSpan(caller, span), () => listener(request, response));
  };

/** As it stands in the list of routes; the one that passes the list by has no parts that change. */
function routeOf(request: IncomingMessage, path: string): string | null {
  const { route } = request as IncomingMessage & { route?: { path?: string } };
  return route?.path ?? (path === '/api/entries' ? path : null);
}

interface Query {
  readonly __knexQueryUid: string;
  readonly sql: string;
}

/** A span for each question that is asked on behalf of a request, with its text and without its values. */
export function traceQueries(db: Database): void {
  const open = new Map<string, Span>();
  const end = ({ __knexQueryUid: id }: Query, error: Error | null): void => {
    const span = open.get(id);
    open.delete(id);
    if (error) span?.setStatus({ code: SpanStatusCode.ERROR });
    span?.end();
  };
  db.on('query', ({ __knexQueryUid: id, sql }: Query) => {
    // What is done without a request, such as looking for what is due, would be all there is to see.
    if (!trace.getActiveSpan()) return;
    const what = /^\s*(\w+)/.exec(sql)?.[1]?.toUpperCase() ?? 'SQL';
    const attributes = { 'db.system.name': 'postgresql', 'db.operation.name': what, 'db.query.text': sql };
    open.set(id, trace.getTracer(NAME).startSpan(what, { kind: SpanKind.CLIENT, attributes }));
  });
  db.on('query-response', (_rows: unknown, query: Query) => end(query, null));
  db.on('query-error', (error: Error, query: Query) => end(query, error));
}
