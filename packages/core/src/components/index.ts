export type { RandomFactor } from './design.ts';
export type { NotIdentifiable } from './identify.ts';
export * from './spread-sources.ts';
export * from './variance-components.ts';
