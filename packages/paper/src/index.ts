export * from './labels.ts';
export { LETTER_RANGES } from './letter-ranges.ts';
export * from './letters.ts';
export * from './pdf-document.ts';
export * from './score-sheet.ts';
export * from './shapes.ts';
export * from './strip-card.ts';
export * from './wall-sheet.ts';
export * from './zone-card.ts';
