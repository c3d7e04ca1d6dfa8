import { DomainError } from '../domain-error.ts';
import { ROW } from './trunk-map.ts';

/** Fiber colours in their order, repeated for every twelve. Source: TIA-598, from memory. */
export const FIBER_COLOURS = [
  'blue',
  'orange',
  'green',
  'brown',
  'slate',
  'white',
  'red',
  'black',
  'yellow',
  'violet',
  'rose',
  'aqua',
] as const;
export type FiberColour = (typeof FIBER_COLOURS)[number];

/** The colour of a fiber, counted from 1. Error: `map.bad_ports`. Example: fiber 13 is blue again. */
export function fiberColour(fiber: number): FiberColour {
  if (!Number.isInteger(fiber) || fiber < 1) throw new DomainError('map.bad_ports', { ports: fiber });
  return FIBER_COLOURS[(fiber - 1) % ROW]!;
}
