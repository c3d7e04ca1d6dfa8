export * from './competence/index.ts';
export * from './diagnosis/index.ts';
export * from './domain-error.ts';
export * from './loss/index.ts';
export * from './scoring/index.ts';
export * from './sheet/index.ts';
export * from './stats/index.ts';
export * from './units/index.ts';
