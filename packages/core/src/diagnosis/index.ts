export * from './diagnose.ts';
export { type Cause, CAUSES, type Symptom, SYMPTOMS } from './rules.ts';
