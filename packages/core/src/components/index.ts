export type { RandomFactor } from './design.ts';
export type { NotIdentifiable } from './identify.ts';
export * from './tell-apart.ts';
export * from './variance-components.ts';
