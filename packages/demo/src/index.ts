export { type DemoData, makeDemo } from './make-demo.ts';
export { SCENARIO, STORIES } from './scenario.ts';
