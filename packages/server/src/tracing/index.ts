export { startTracing, tracedRequests, traceQueries } from './tracing.ts';
