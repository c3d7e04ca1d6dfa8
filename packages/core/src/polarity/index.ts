export * from './fiber-colours.ts';
export * from './explain-map.ts';
export * from './trunk-map.ts';
