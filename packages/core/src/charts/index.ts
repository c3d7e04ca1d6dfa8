export * from './individuals.ts';
export * from './p-chart.ts';
export * from './run-rules.ts';
