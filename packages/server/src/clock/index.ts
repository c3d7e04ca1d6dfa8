export { clockOffsetMs, corrected } from './clock.ts';
