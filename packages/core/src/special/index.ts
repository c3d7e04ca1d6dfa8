export * from './binomial.ts';
export * from './incomplete-beta.ts';
export * from './incomplete-gamma.ts';
export * from './noncentral-t.ts';
export * from './normal.ts';
export * from './root.ts';
export * from './stirling.ts';
export * from './student.ts';
