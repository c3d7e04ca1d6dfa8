export * from './framer.ts';
export * from './power-reading.ts';
export * from './response.ts';
export * from './steadiness.ts';
