export * from './describe.ts';
export * from './histogram.ts';
export * from './moments.ts';
export * from './quantile.ts';
export * from './wilson.ts';
