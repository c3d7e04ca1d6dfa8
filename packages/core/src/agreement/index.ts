export * from './cohen-kappa.ts';
export * from './fleiss-kappa.ts';
export * from './judge-calls.ts';
export * from './skew-proof.ts';
export * from './weighted-kappa.ts';
