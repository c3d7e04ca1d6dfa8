export * from './both-directions.ts';
export * from './field-radius.ts';
export { type FacingFibers, gapLossDb, jointLoss, type JointLoss } from './joint-loss.ts';
export * from './multimode-mismatch.ts';
export * from './reflection.ts';
