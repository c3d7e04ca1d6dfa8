export * from './cohen-kappa.ts';
export * from './judge-calls.ts';
