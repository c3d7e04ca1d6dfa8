/** Near ports, counted from 1, whose far ends are exchanged among themselves. */
export interface Crossing {
  readonly kind: 'crossed_pair' | 'crossed_fibers';
  readonly ports: readonly number[];
}

/**
 * The least exchanges of far ends that turn `expected` into `seen`, in groups as small as they can be: rings of ports
 * that have each other's far end, and chains that end at a dark fiber, which belongs to the group. A pair is 1-2,
 * 3-4, ... Entry k - 1 is the far port of near port k, 0 dark. A group of n ports is n - 1 exchanges.
 * Both maps hold each far port at most once.
 */
export function crossings(seen: readonly number[], expected: readonly number[]): readonly Crossing[] {
  const ownerOf = new Int32Array(seen.length + 1);
  const taker = new Int32Array(seen.length + 1);
  expected.forEach((far, i) => far !== 0 && (ownerOf[far] = i + 1));
  seen.forEach((far, i) => far !== 0 && (taker[far] = i + 1));
  const wrong = (port: number): boolean => seen[port - 1] !== 0 && seen[port - 1] !== expected[port - 1];
  const taken = new Uint8Array(seen.length + 1);
  const found: Crossing[] = [];
  const follow = (start: number): void => {
    const ports: number[] = [];
    for (let at = start; at !== 0 && !taken[at]; at = seen[at - 1] === 0 ? 0 : ownerOf[seen[at - 1]!]!) {
      taken[at] = 1;
      ports.push(at);
    }
    ports.sort((a, b) => a - b);
    const pair = ports.length === 2 && ports[0]! % 2 === 1 && ports[1] === ports[0]! + 1;
    found.push({ kind: pair ? 'crossed_pair' : 'crossed_fibers', ports });
  };
  // Chains from their beginning: a port whose own far end nobody has.
  for (let port = 1; port <= seen.length; port++) {
    if (wrong(port) && taker[expected[port - 1]!] === 0) follow(port);
  }
  for (let port = 1; port <= seen.length; port++) if (wrong(port) && !taken[port]) follow(port);
  return found.sort((a, b) => a.ports[0]! - b.ports[0]!);
}
