export { applySchools, chosenOption } from './apply-schools.ts';
export * from './check-sheet.ts';
export * from './parts.ts';
export * from './types.ts';
export * from './unit-of.ts';
