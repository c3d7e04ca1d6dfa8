export * from './decimal.ts';
export * from './duration.ts';
export * from './units.ts';
export * from './typed-number.ts';
