export * from './conclusions.ts';
export * from './diagnosis.ts';
export * from './errors.ts';
export * from './faults.ts';
export * from './names.ts';
export * from './params.ts';
export * from './reasons.ts';
export * from './reference-steps.ts';
