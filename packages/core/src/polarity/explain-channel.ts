import { DomainError } from '../domain-error.ts';
import { type ChannelPart, TRUNK_TYPES, type TrunkType } from '../sheet/index.ts';
import { type Channel, channelMap } from './channel.ts';
import { type Crossing, crossings } from './crossings.ts';
import { ROW } from './trunk-map.ts';

/** A part that is not what the channel asks for. `part` is its place in the channel, counted from 0. */
export type PartFault =
  | { readonly kind: 'trunk_type'; readonly part: number; readonly type: TrunkType }
  | { readonly kind: 'cassette_turned'; readonly part: number }
  | { readonly kind: 'cords_other'; readonly part: number };

/** Faults of parts that explain the same thing equally well: any one of the options, each a list of faults. */
export interface StructureFault {
  /** The row of 12 that it is in, counted from 1; null for the whole channel. */
  readonly row: number | null;
  readonly options: readonly (readonly PartFault[])[];
}

export interface ChannelExplanation {
  /** How many faults it takes; 0 where the map is right. */
  readonly cost: number;
  readonly structure: readonly StructureFault[];
  /** Rows that land in each other's place: [near row, far row]. */
  readonly rows: readonly (readonly [number, number])[];
  readonly crossed: readonly Crossing[];
  /** Near ports without light, but for whole dark rows. */
  readonly broken: readonly number[];
  readonly darkRows: readonly number[];
}

/** One reachable map of a row with what it costs and all the ways there. */
interface RowMap {
  readonly map: readonly number[];
  readonly cost: number;
  readonly options: readonly (readonly PartFault[])[];
}

/** Parts of one row that may be wrong at once; more are not searched for. */
const MOST_PART_FAULTS = 2;

/**
 * The smallest explanation of a walked map: which trunks are of another type, cassettes turned, cords of the other kind,
 * rows exchanged, fibers crossed or broken. Found by search over the parts; a fault of a part comes before a list of
 * crossings that costs the same; options that no walk can tell apart are all named.
 *
 * The parts of a row of 12 reach only a handful of different maps, whatever their number, so each row is compared with
 * those and no pair of faults is tried out. Entry k - 1 is the far port that lit for near port k, 0 none, each far port
 * at most once. Errors: `map.lengths_differ`, `map.port_twice`, `map.bad_ports`.
 */
export function explainChannel(channel: Channel, seen: readonly number[]): ChannelExplanation {
  check(channel, seen);
  const width = Math.min(ROW, channel.ports);
  const rowCount = Math.ceil(channel.ports / width);
  const reachable = reachableMaps({ ...channel, ports: width });
  const landed = rowsLanded(seen, width, rowCount);
  const darkRows: number[] = [];
  const rows = Array.from({ length: rowCount }, (_, r) => {
    const row = seen.slice(r * width, (r + 1) * width);
    if (row.length > 1 && row.every((far) => far === 0)) darkRows.push(r + 1);
    // Far ports counted within the row that it lands in; those that leave it are -1.
    const from = landed[r]! * width;
    return row.map((far) => (far === 0 ? 0 : far > from && far <= from + width ? far - from : -1));
  });
  const fits = rows.map((row, r) =>
    darkRows.includes(r + 1)
      ? reachable.map((m) => ({ m, rest: 0 }))
      : reachable.map((m) => ({ m, rest: restOf(row, m.map) })),
  );
  const chosen = choose(fits, darkRows);
  const expected = rows.flatMap((_, r) => chosen.maps[r]!.map((far) => landed[r]! * width + far));
  const broken = seen.flatMap((far, i) =>
    far === 0 && !darkRows.includes(Math.floor(i / width) + 1) ? [i + 1] : [],
  );
  const crossed = crossings(seen, expected);
  const moved = landed.flatMap((far, near) => (far === near ? [] : [[near + 1, far + 1] as const]));
  return {
    cost:
      chosen.cost +
      cyclesCost(landed) +
      crossed.reduce((sum, c) => sum + c.ports.length - 1, 0) +
      broken.length +
      darkRows.length,
    structure: chosen.structure,
    rows: moved,
    crossed,
    broken,
    darkRows,
  };
}

function check(channel: Channel, seen: readonly number[]): void {
  if (seen.length !== channel.ports) throw new DomainError('map.lengths_differ', { ports: channel.ports });
  const used = new Set<number>();
  for (const far of seen) {
    if (!Number.isInteger(far) || far < 0 || far > channel.ports) {
      throw new DomainError('map.bad_ports', { ports: far });
    }
    if (far !== 0 && used.has(far)) throw new DomainError('map.port_twice', { port: far });
    used.add(far);
  }
}

/** Every map that a row can have with at most two wrong parts, the cheapest first, with all cheapest ways to it. */
function reachableMaps(row: Channel): readonly RowMap[] {
  const found = new Map<
    string,
    { map: readonly number[]; cost: number; options: (readonly PartFault[])[] }
  >();
  const visit = (parts: readonly ChannelPart[], from: number, faults: readonly PartFault[]): void => {
    const map = channelMap({ ports: row.ports, parts });
    const known = found.get(map.join());
    if (!known || known.cost > faults.length) {
      found.set(map.join(), { map, cost: faults.length, options: [faults] });
    } else if (known.cost === faults.length && faults.length > 0) known.options.push(faults);
    if (faults.length === MOST_PART_FAULTS) return;
    for (let i = from; i < parts.length; i++) {
      for (const [fault, part] of otherwise(parts[i]!, i)) {
        visit(
          parts.map((p, k) => (k === i ? part : p)),
          i + 1,
          [...faults, fault],
        );
      }
    }
  };
  visit(row.parts, 0, []);
  return [...found.values()].sort((a, b) => a.cost - b.cost);
}

function otherwise(part: ChannelPart, at: number): (readonly [PartFault, ChannelPart])[] {
  switch (part.kind) {
    case 'trunk':
      return TRUNK_TYPES.filter((type) => type !== part.type).map((type) => [
        { kind: 'trunk_type', part: at, type },
        { kind: 'trunk', type },
      ]);
    case 'cassette':
      return [
        [
          { kind: 'cassette_turned', part: at },
          { ...part, turned: !part.turned },
        ],
      ];
    case 'cords':
      return [
        [
          { kind: 'cords_other', part: at },
          { ...part, crossed: !part.crossed },
        ],
      ];
    default: {
      const never: never = part;
      return never;
    }
  }
}

/** Where most of each near row's light comes out, counted from 0; its own place where that is no exchange of rows. */
function rowsLanded(seen: readonly number[], width: number, rowCount: number): readonly number[] {
  const own = Array.from({ length: rowCount }, (_, r) => r);
  if (rowCount === 1) return own;
  const landed = own.map((r) => {
    const votes = new Int32Array(rowCount);
    for (const far of seen.slice(r * width, (r + 1) * width)) {
      if (far > 0) votes[Math.floor((far - 1) / width)]! += 1;
    }
    let best = r;
    for (let i = 0; i < rowCount; i++) if (votes[i]! > votes[best]!) best = i;
    return best;
  });
  return new Set(landed).size === rowCount ? landed : own;
}

/** Exchanges that a row needs beside a map; fibers that leave the row cost the same with any map. */
function restOf(row: readonly number[], map: readonly number[]): number {
  const inside = row.map((far) => (far === -1 ? 0 : far));
  return crossings(inside, map).reduce((sum, c) => sum + c.ports.length - 1, 0);
}

interface Fit {
  readonly m: RowMap;
  readonly rest: number;
}

/** The map of each row: one fault of the whole channel, or faults of single rows, whichever takes fewer. */
function choose(
  fits: readonly (readonly Fit[])[],
  darkRows: readonly number[],
): { cost: number; maps: (readonly number[])[]; structure: StructureFault[] } {
  const many = fits.length > 1;
  let best: { total: number; cost: number; maps: (readonly number[])[]; structure: StructureFault[] } | null =
    null;
  fits[0]!.forEach(({ m: whole }, w) => {
    let total = whole.cost;
    let cost = whole.cost;
    const maps: (readonly number[])[] = [];
    const structure: StructureFault[] = whole.cost > 0 ? [{ row: null, options: tied(fits, w, many) }] : [];
    fits.forEach((row, r) => {
      // The row keeps the whole channel's map, or has a fault of its own. On a tie the fault of a part is named.
      let own = row[w]!;
      let ownCost = 0;
      if (many && !darkRows.includes(r + 1)) {
        for (const fit of row) {
          const added = fit === row[w] ? 0 : Math.max(1, fit.m.cost);
          if (fit.rest + added < own.rest + ownCost) [own, ownCost] = [fit, added];
        }
      }
      maps.push(own.m.map);
      total += own.rest + ownCost;
      cost += ownCost;
      if (ownCost > 0 && own.m.options[0]!.length > 0) {
        structure.push({ row: r + 1, options: own.m.options });
      }
    });
    if (!best || total < best.total || (total === best.total && cost > best.cost)) {
      best = { total, cost, maps, structure };
    }
  });
  return best!;
}

/** All cheapest ways to the chosen map, and to others that fit the lit fibers of a single row as well at that cost. */
function tied(
  fits: readonly (readonly Fit[])[],
  w: number,
  many: boolean,
): readonly (readonly PartFault[])[] {
  const { m, rest } = fits[0]![w]!;
  if (many) return m.options;
  return fits[0]!.filter((f) => f.m.cost === m.cost && f.rest === rest).flatMap((f) => f.m.options);
}

function cyclesCost(landed: readonly number[]): number {
  const taken = new Set<number>();
  let cost = 0;
  for (let start = 0; start < landed.length; start++) {
    let length = 0;
    for (let at = start; !taken.has(at); at = landed[at]!) {
      taken.add(at);
      length += 1;
    }
    cost += Math.max(0, length - 1);
  }
  return cost;
}
