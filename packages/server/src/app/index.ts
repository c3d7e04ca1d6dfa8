export { buildApp } from './app.ts';
export { type Drain, drainOf } from './drain.ts';
