import { TRUNK_TYPES, type TrunkType } from '../sheet/index.ts';
import { trunkMap } from './trunk-map.ts';

/** One part of what is wrong with a walked map. Ports are near positions, counted from 1. */
export type MapFinding =
  | { readonly kind: 'wrong_type'; readonly types: readonly TrunkType[] }
  | { readonly kind: 'crossed_pair'; readonly ports: readonly [number, number] }
  | { readonly kind: 'crossed_fibers'; readonly ports: readonly number[] }
  | { readonly kind: 'no_light'; readonly ports: readonly number[] };

/**
 * The smallest explanation of a walked map against the trunk that was wanted. A map that is exactly another trunk
 * type's, dark fibers left out, is of the wrong type, and not a list of crossings; types that cannot be told apart
 * by the lit ports are all named. Otherwise crossed pairs (1-2, 3-4, ...), other crossings, dark fibers. Empty when
 * the map is right. Entry k - 1 is the far port that lit for near port k, 0 none; each far port at most once.
 * Example: 2, 1, 3, 4, ... against type A is the crossed pair 1-2.
 */
export function explainMap(seen: readonly number[], wanted: TrunkType): readonly MapFinding[] {
  const expected = trunkMap(wanted, seen.length);
  const dark = seen.flatMap((far, i) => (far === 0 ? [i + 1] : []));
  const noLight: MapFinding[] = dark.length > 0 ? [{ kind: 'no_light', ports: dark }] : [];
  const wrong = seen.flatMap((far, i) => (far !== 0 && far !== expected[i] ? [i + 1] : []));
  if (wrong.length === 0) return noLight;
  const types = TRUNK_TYPES.filter((type) => type !== wanted && fits(seen, trunkMap(type, seen.length)));
  if (types.length > 0) return [{ kind: 'wrong_type', types }, ...noLight];
  return [...crossings(seen, expected, wrong), ...noLight];
}

function fits(seen: readonly number[], map: readonly number[]): boolean {
  return seen.every((far, i) => far === 0 || far === map[i]);
}

/** Groups of near ports whose far ends are exchanged among themselves, each as small as it can be. */
function crossings(
  seen: readonly number[],
  expected: readonly number[],
  wrong: readonly number[],
): MapFinding[] {
  const nearOf = new Map(expected.map((far, i) => [far, i + 1]));
  const taken = new Set<number>();
  const found: MapFinding[] = [];
  for (const start of wrong) {
    if (taken.has(start)) continue;
    const group: number[] = [];
    // From a port to the one whose far end it has, until the ring closes or runs into a dark fiber.
    for (let at = start; !taken.has(at) && seen[at - 1] !== 0; at = nearOf.get(seen[at - 1]!)!) {
      taken.add(at);
      group.push(at);
    }
    group.sort((a, b) => a - b);
    const [a, b] = group;
    if (group.length === 2 && a! % 2 === 1 && b === a! + 1)
      found.push({ kind: 'crossed_pair', ports: [a!, b] });
    else found.push({ kind: 'crossed_fibers', ports: group });
  }
  return found;
}
