export * from './diagnose.ts';
export { type Cause, CAUSE_SKILL, CAUSES, type Symptom, SYMPTOMS } from './rules.ts';
