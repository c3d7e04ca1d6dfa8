export * from './diagnose.ts';
export * from './causes.ts';
export { workKindOf } from './facts.ts';
