export * from './attempts.ts';
export * from './classes.ts';
export * from './common.ts';
export * from './errors.ts';
export * from './methods.ts';
export * from './people.ts';
export * from './results.ts';
export * from './routes.ts';
