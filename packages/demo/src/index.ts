export type { DemoData } from './demo-data.ts';
export { cordChecksOf } from './cord-checks.ts';
export { makeDemo } from './make-demo.ts';
export { makeSplicing } from './make-splicing.ts';
export {
  BENCH_INSTRUMENTS,
  PRACTICE,
  SCENARIO,
  SESSIONS,
  SPLICING,
  SPLICING_SESSIONS,
  STORIES,
} from './scenario.ts';
export * from './stock.ts';
