export * from './explain-map.ts';
export * from './trunk-map.ts';
