export * from './costliest.ts';
export * from './outcome-marks.ts';
export * from './policy.ts';
export * from './rates.ts';
export * from './standing.ts';
export * from './policy-operating.ts';
export * from './pieces-ahead.ts';
