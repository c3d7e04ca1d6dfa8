export { buildApp } from './app.ts';
export { answersUnderWay, drainOf, type UnderWay } from './drain.ts';
