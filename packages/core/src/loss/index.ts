export * from './counted-connections.ts';
export * from './loss-terms.ts';
export * from './power.ts';
export * from './uncertainty.ts';
