export * from './moved-sheet.ts';
export * from './what-if-tally.ts';
export * from './replay.ts';
