export * from './isotonic.ts';
export * from './kaplan-meier.ts';
export * from './logistic.ts';
export * from './power-law.ts';
