export * from './day-in.ts';
