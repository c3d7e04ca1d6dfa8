export * from './describe.ts';
export * from './fisher.ts';
export * from './histogram.ts';
export * from './holm.ts';
export * from './moments.ts';
export * from './quantile.ts';
export * from './stands-apart.ts';
export * from './wilson.ts';
