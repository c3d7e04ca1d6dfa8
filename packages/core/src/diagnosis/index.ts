export * from './diagnose.ts';
export {
  type Cause,
  CAUSE_SKILL,
  CAUSES,
  type Symptom,
  SYMPTOMS,
  type WorkKind,
  WORK_KINDS,
} from './rules.ts';
export { workKindOf } from './facts.ts';
