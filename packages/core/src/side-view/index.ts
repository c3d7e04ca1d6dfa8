export { angleOfLine } from './angle-of-line.ts';
export * from './measure-cleave.ts';
export { angleSdOfScreen } from './of-screen.ts';
export { CLEAVE_CLASSES, type CleaveClass, type FaceSigns } from './face-class.ts';
export { SIDE_REFUSALS, type SideRefusal } from './find-fibers.ts';
export type { PicturePlace } from './picture-scale.ts';
export { JOINT_REFUSALS, type JointRefusal } from './splice/through-fiber.ts';
export * from './splice/measure-splice.ts';
