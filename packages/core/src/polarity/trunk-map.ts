import { DomainError } from '../domain-error.ts';
import type { TrunkType } from '../sheet/index.ts';

/** Positions of one row of a multi-fiber connector. */
export const ROW = 12;

/**
 * The far position of each near one, by trunk type: A straight through, B reversed within each row of 12 (or the
 * whole of a shorter row), C pairs crossed. Entry k - 1 is the far position of near position k.
 * Domain: `ports` even and over 0. Error: `map.bad_ports`. Source: TIA-568 polarity methods, from memory.
 * Example: type B of 12 is 12, 11, ... 1; type C is 2, 1, 4, 3, ...
 */
export function trunkMap(type: TrunkType, ports: number): readonly number[] {
  if (!Number.isInteger(ports) || ports <= 0 || ports % 2 !== 0)
    throw new DomainError('map.bad_ports', { ports });
  return Array.from({ length: ports }, (_, i) => {
    const port = i + 1;
    switch (type) {
      case 'A':
        return port;
      case 'B': {
        const first = i - (i % ROW);
        return first + Math.min(ROW, ports - first) - (i % ROW);
      }
      case 'C':
        return port % 2 === 1 ? port + 1 : port - 1;
      default: {
        const never: never = type;
        return never;
      }
    }
  });
}

/**
 * End to end through parts in a row: the far position of each near one after all of them; 0 (no light) stays 0.
 * All maps have the same length. Error: `map.lengths_differ`.
 * Example: type B after type B is straight through.
 */
export function composeMaps(...maps: readonly (readonly number[])[]): readonly number[] {
  const [first, ...rest] = maps;
  if (!first) return [];
  if (rest.some((m) => m.length !== first.length)) {
    throw new DomainError('map.lengths_differ', { ports: first.length });
  }
  return first.map((port) => rest.reduce((at, map) => (at === 0 ? 0 : map[at - 1]!), port));
}
