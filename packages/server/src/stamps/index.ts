export { keepsShowing, type ReadingStamps, readingStamps } from './stamps.ts';
