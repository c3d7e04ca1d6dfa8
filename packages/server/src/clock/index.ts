export { AHEAD_MS, canBe, type Held, heldBetween } from './bounds.ts';
export { clockOffsetMs, corrected } from './clock.ts';
