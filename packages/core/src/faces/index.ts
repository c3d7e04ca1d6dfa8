export * from './criteria.ts';
export * from './enclosing-circle.ts';
export * from './grade-face.ts';
export * from './image.ts';
export * from './find-cladding.ts';
export * from './measure-face.ts';
export * from './measure-row.ts';
export { CORE_CLASSES, type Core, type CoreClass } from './find-core.ts';
