export * from './labels.ts';
export * from './letters.ts';
export * from './pdf-document.ts';
export * from './score-sheet.ts';
export * from './shapes.ts';
export * from './strip-card.ts';
