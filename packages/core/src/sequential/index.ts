export * from './cusum.ts';
export * from './further-pieces.ts';
export * from './operating-curve.ts';
export * from './rates.ts';
export * from './sprt.ts';
