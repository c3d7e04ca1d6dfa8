export * from './bench-piece.ts';
export * from './face-features.ts';
export * from './face.ts';
export * from './random-face.ts';
export * from './scope-face.ts';
export * from './hand.ts';
export * from './rng.ts';
export * from './workpiece.ts';
