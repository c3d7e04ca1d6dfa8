export { applyPractice, chosenOption, stepsWithOptions } from './apply-practice.ts';
export * from './check-sheet.ts';
export * from './coverage.ts';
export * from './parts.ts';
export * from './ready-problems.ts';
export * from './sheet-problems.ts';
export * from './types.ts';
export * from './unit-of.ts';
