export * from './budget.ts';
export * from './capability.ts';
export * from './risk.ts';
