export * from './cohen-kappa.ts';
export * from './fleiss-kappa.ts';
export * from './judge-calls.ts';
export * from './prevalence-robust.ts';
export * from './weighted-kappa.ts';
