import type { BlockEdges } from './block-edges.ts';

/** Radius of a tight buffer (common practice: 900 µm). */
export const BUFFER_RADIUS_MM = 0.45;
/** Widths of jackets that are tried, mm. */
export const JACKET_MM = { least: 1.6, most: 3.6, step: 0.2 } as const;
/** What a block takes off where a layer shows no edges: so much of what it adds where it shows both fully. */
const UNSEEN = 0.18;
/** Light and signs on a jacket look like thin things: they say less than two edges of a thick one. */
const SAYS = { buffer: 0.8, thin: 0.5 } as const;
/** Where there are edges further out on both sides, the layer is not the outermost: so much of theirs is taken off. */
const INSIDE = 1;
/** Edges that are seen more surely than this count. */
export const LIKELY = 0.4;
/** Widths are told apart by so many steps. */
const APART = 2;
/** What a step aside by one cell costs, and beginning a layer after the one before it, or after none. */
const ASIDE = 0.08;
const BEGIN = { thin: 0.5, next: 0.4, skipped: 2.5, bare: 12, out: 1.5 } as const;
/** The best way of a cable through the blocks of a strip. */
export interface Way {
  readonly score: number;
  /** Over how many blocks its thick part goes. */
  readonly cableBlocks: number;
  /** By block: which layer, and the cell of its middle. */
  readonly layer: Int16Array;
  readonly cell: Int16Array;
}

/** Paper before the fiber and what comes after the cable leave no trace; a jacket of each width is a layer of its own. */
export const PAPER = -1;
export const THIN = 0;
export const BUFFER = 1;
export const FIRST_JACKET = 2;
export const WIDTHS = Array.from(
  { length: Math.round((JACKET_MM.most - JACKET_MM.least) / JACKET_MM.step) + 1 },
  (_, i) => JACKET_MM.least + i * JACKET_MM.step,
);
const LAYERS = FIRST_JACKET + WIDTHS.length;
export const OUT = LAYERS;
/** How a state was come to: from a cell beside it or from itself in the same layer, or from another layer. */
const FROM_LAYER = 2;
const NEVER = -1e9;

/**
 * The way that goes from paper over thin fiber and buffer to a jacket without a jump aside, and along which most of the edges on both sides are seen
 * (Viterbi 1967). Null where nothing speaks for a cable.
 */
export function wayThrough(edges: BlockEdges): Way | null {
  const { blocks, cells } = edges;
  const states = LAYERS * cells;
  const came = new Int8Array(blocks * states);
  // For each block and cell: the state out of which a buffer and a jacket begin, -1 for paper.
  const bufferFrom = new Int32Array(blocks * cells);
  const jacketFrom = new Int32Array(blocks * cells);
  let best = new Float64Array(states).fill(NEVER);
  let next = new Float64Array(states);
  const own = new Float64Array(states);
  const begin = new Float64Array(cells);
  const room = {
    near: new Float64Array(cells),
    seen: new Float64Array(states),
    outer: new Float64Array(cells),
  };
  let end = { score: 0, state: -1, block: -1 };
  for (let b = 0; b < blocks; b++) {
    scoreBlock(edges, b, own, room);
    begin.fill(-BEGIN.thin);
    goOn(THIN, { best, next, came, at: b * states, own, begin, cells });
    beginOf(begin, bufferFrom, b, cells, [[best, THIN, BEGIN.next]], BEGIN.skipped);
    goOn(BUFFER, { best, next, came, at: b * states, own, begin, cells });
    const before = [
      [best, BUFFER, BEGIN.next],
      [best, THIN, BEGIN.skipped],
    ] as const;
    beginOf(begin, jacketFrom, b, cells, before, BEGIN.bare);
    for (let layer = FIRST_JACKET; layer < LAYERS; layer++)
      goOn(layer, { best, next, came, at: b * states, own, begin, cells });
    [best, next] = [next, best];
    // A cable may leave the strip before it ends.
    const out = b === blocks - 1 ? 0 : BEGIN.out;
    for (let i = BUFFER * cells; i < states; i++)
      if (best[i]! - out > end.score) end = { score: best[i]! - out, state: i, block: b };
  }
  return end.state < 0 ? null : tracedBack(edges, end, came, bufferFrom, jacketFrom);
}

interface Step {
  readonly best: Float64Array;
  readonly next: Float64Array;
  readonly came: Int8Array;
  readonly at: number;
  readonly own: Float64Array;
  /** What it is worth at each cell to begin the layer here. */
  readonly begin: Float64Array;
  readonly cells: number;
}
/** The best way into each state of a layer: in the layer, at most one cell aside, or by beginning it. */
function goOn(layer: number, { best, next, came, at, own, begin, cells }: Step): void {
  const row = layer * cells;
  for (let c = 0; c < cells; c++) {
    const i = row + c;
    let most = best[i]!;
    let by = 0;
    const left = c > 0 ? best[i - 1]! - ASIDE : NEVER;
    const right = c < cells - 1 ? best[i + 1]! - ASIDE : NEVER;
    if (left > most) {
      most = left;
      by = -1;
    }
    if (right > most) {
      most = right;
      by = 1;
    }
    if (begin[c]! > most) {
      most = begin[c]!;
      by = FROM_LAYER;
    }
    next[i] = most + own[i]!;
    came[at + i] = by;
  }
}
/** What it is worth to begin a layer at each cell, out of those that may come before it or out of paper. */
function beginOf(
  begin: Float64Array,
  from: Int32Array,
  b: number,
  cells: number,
  before: readonly (readonly [best: Float64Array, layer: number, cost: number])[],
  bare: number,
): void {
  for (let c = 0; c < cells; c++) {
    let most = -bare;
    let by = -1;
    for (const [best, layer, cost] of before) {
      const i = layer * cells + c;
      if (best[i]! - cost <= most) continue;
      most = best[i]! - cost;
      by = i;
    }
    begin[c] = most;
    from[b * cells + c] = by;
  }
}

/** Room for what a block shows: how surely each place is an edge, what each layer shows of both of its edges, the most of what lies further out. */
interface BlockRoom {
  readonly near: Float64Array;
  readonly seen: Float64Array;
  readonly outer: Float64Array;
}
/** What a block says of each state. */
function scoreBlock(edges: BlockEdges, b: number, own: Float64Array, { near, seen, outer }: BlockRoom): void {
  const { cells, cellMm, step, line } = edges;
  const from = b * cells;
  // The stronger of the two steps next to each place: the root of it, so that the product of two sides is their mean.
  for (let c = 0; c + 1 < cells; c++) {
    const a = step[from + c]!;
    const z = step[from + c + 1]!;
    near[c] = Math.sqrt(a > z ? a : z);
  }
  for (let i = 0; i < WIDTHS.length; i++) bothEdges(near, seen, FIRST_JACKET + i, WIDTHS[i]! / 2 / cellMm);
  bothEdges(near, seen, BUFFER, BUFFER_RADIUS_MM / cellMm);
  for (let c = 0; c < cells; c++) seen[THIN * cells + c] = line[from + c]!;
  outer.fill(0);
  // From the widest inwards; two of nearly the same width share their edges.
  for (let i = WIDTHS.length - 1; i >= 0; i--) {
    if (i + APART < WIDTHS.length) addOuter(seen, FIRST_JACKET + i + APART, outer);
    lessOuter(seen, FIRST_JACKET + i, outer, own);
  }
  for (let i = 0; i < APART; i++) addOuter(seen, FIRST_JACKET + i, outer);
  lessOuter(seen, BUFFER, outer, own, SAYS.buffer);
  addOuter(seen, BUFFER, outer);
  lessOuter(seen, THIN, outer, own, SAYS.thin);
}
function bothEdges(near: Float64Array, seen: Float64Array, layer: number, half: number): void {
  const cells = near.length;
  const left = Math.floor(0.5 - half);
  const right = Math.floor(0.5 + half);
  const row = seen.subarray(layer * cells, (layer + 1) * cells).fill(0);
  for (let c = -left; c + right < cells; c++) row[c] = near[c + left]! * near[c + right]!;
}
function addOuter(seen: Float64Array, layer: number, outer: Float64Array): void {
  for (let c = 0, i = layer * outer.length; c < outer.length; c++, i++)
    if (seen[i]! > outer[c]!) outer[c] = seen[i]!;
}
function lessOuter(
  seen: Float64Array,
  layer: number,
  outer: Float64Array,
  own: Float64Array,
  says = 1,
): void {
  for (let c = 0, i = layer * outer.length; c < outer.length; c++, i++) {
    const more = outer[c]! - LIKELY;
    own[i] = says * seen[i]! - UNSEEN - (more > 0 ? INSIDE * more : 0);
  }
}

function tracedBack(
  { blocks, cells }: BlockEdges,
  end: { readonly score: number; readonly state: number; readonly block: number },
  came: Int8Array,
  bufferFrom: Int32Array,
  jacketFrom: Int32Array,
): Way {
  const layer = new Int16Array(blocks).fill(PAPER).fill(OUT, end.block + 1);
  const cell = new Int16Array(blocks);
  const states = LAYERS * cells;
  let state = end.state;
  for (let b = end.block; b >= 0 && state >= 0; b--) {
    const own = Math.floor(state / cells);
    layer[b] = own;
    cell[b] = state % cells;
    const by = came[b * states + state]!;
    if (by !== FROM_LAYER) state += by;
    else if (own === THIN) break;
    else state = (own === BUFFER ? bufferFrom : jacketFrom)[b * cells + cell[b]!]!;
  }
  const isCable = (l: number): boolean => l >= BUFFER && l < OUT;
  return { score: end.score, cableBlocks: layer.filter(isCable).length, layer, cell };
}
