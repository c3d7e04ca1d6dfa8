export * from './channel.ts';
export { type Crossing, crossings } from './crossings.ts';
export * from './explain-channel.ts';
export * from './fiber-colours.ts';
export * from './trunk-map.ts';
