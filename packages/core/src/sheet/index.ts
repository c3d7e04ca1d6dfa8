export * from './check-sheet.ts';
export * from './types.ts';
export * from './unit-of.ts';
