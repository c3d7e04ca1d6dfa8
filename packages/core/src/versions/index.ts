export * from './compare-sheets.ts';
export * from './copy-sheet.ts';
export * from './merge-sheets.ts';
export * from './outcomes-under.ts';
export * from './same.ts';
