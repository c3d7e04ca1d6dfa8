export * from './moved-sheet.ts';
export * from './what-if-tally.ts';
export * from './replay.ts';
export * from './packed-entries.ts';
