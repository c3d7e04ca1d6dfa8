import { type GreyImage, shrink } from '../faces/pixels/image.ts';
import { middleOf } from '../faces/pixels/quantile.ts';
import { type Background, fitBackground } from './background.ts';
import { isElectrode, piecesOf } from './dark-pieces.ts';
import { darkPlaces, findStrips, type Strip } from './find-strips.ts';

/** A fiber as it was found, roughly; in pixels of the whole picture. */
export interface RoughFiber {
  readonly side: 'left' | 'right';
  /** Column of its end. */
  readonly end: number;
  readonly width: number;
  readonly middle: (x: number) => number;
  /** Pixels from its end to that of the fiber that faces it; infinite where none does. */
  readonly gap: number;
}
export interface FoundFibers {
  readonly fibers: readonly RoughFiber[];
  /** Columns between which fibers are seen: frames of a screen lie outside. */
  readonly border: { readonly from: number; readonly to: number };
  /** The light behind, by places of the whole picture. */
  readonly light: (x: number, y: number) => number;
  readonly spread: number;
}
/** Why a picture shows no fiber whose end can be measured. */
export const SIDE_REFUSALS = [
  'no_fiber',
  'crossing',
  'face_on',
  'no_end',
  'out_of_frame',
  'coated',
  'defocused',
  'washed_out',
  'no_face',
] as const;
export type SideRefusal = (typeof SIDE_REFUSALS)[number];

/** Pictures are looked through at about this width. */
const SMALL_WIDTH = 400;
/** A fiber comes in where it is seen within this share of the picture's width from its border. */
const AT_BORDER = 0.06;
/** Bands of a fiber that are dark: from the middle, in widths. */
const BANDS = { from: 0.36, to: 0.47 };
/** Beside a fiber is what lies further from its middle than so many of its widths. */
const BESIDE = 0.62;
/** A block is as dark as that from top to bottom, and takes no more of the width (house). */
const BLOCK = { dark: 0.97, most: 0.25 };
/** Dark places beside the fibers, to the fibers' own, from which another fiber crosses. */
const CROSSING = 0.3;
const DARK_FIELD = 45;
/** Closer than so many of their heights two strips may run into each other. */
const NEARLY_TOUCH = 0.25;
/** So many widths from the borders of the picture a gap is looked for. */
const FROM_BORDER = 0.3;
/** A fiber has ended where its sides are light over so many of its widths. */
const LIGHT_FOR = 0.05;

/** Finds the fibers of a back-lit picture from the side, as they come in from its left and its right. */
export function findFibers(image: GreyImage): FoundFibers | SideRefusal {
  const shrunk = Math.max(1, Math.round(image.width / SMALL_WIDTH));
  const small = shrink(image, shrunk);
  const light = fitBackground(small);
  if (light.at(small.width / 2, small.height / 2) < DARK_FIELD) return 'face_on';
  const dark = darkPlaces(small, light);
  const strips = findStrips(dark, small.width, small.height);
  if (strips.length === 0) return 'no_fiber';
  const open = openColumns(dark, small.width, small.height);
  const edge = AT_BORDER * small.width;
  const atLeft = strips.filter((s) => s.from <= open.from + edge);
  const atRight = strips.filter((s) => s.to >= open.to - edge);
  if (atLeft.length + atRight.length === 0) return 'no_fiber';
  if (isCrossed(dark, small.width, small.height, open, strips)) return 'crossing';
  const place = new Place(image, light, shrunk);
  // On the side where a fiber comes in; an end lies within the picture anyway.
  const from = atLeft.length === 0 ? 0 : Math.min(...atLeft.map((s) => s.from)) * shrunk;
  const last = image.width - 1;
  const to =
    atRight.length === 0 ? last : Math.min(last, (Math.max(...atRight.map((s) => s.to)) + 1) * shrunk);
  const fibers = fibersOf(place, atLeft, atRight);
  if (typeof fibers === 'string') return fibers;
  return {
    fibers,
    border: { from, to },
    light: (x, y) => light.at(x / shrunk, y / shrunk),
    spread: light.spread,
  };
}

function fibersOf(
  place: Place,
  atLeft: readonly Strip[],
  atRight: readonly Strip[],
): RoughFiber[] | SideRefusal {
  const both = atLeft.find((s) => atRight.includes(s));
  const first = both ?? atLeft[0];
  const second = both ?? atRight[0];
  // Two ends that nearly touch: one strip, or two that run into each other.
  if (first && second && (both || second.from - first.to < NEARLY_TOUCH * first.height)) {
    const gap = place.gapOf(first, second);
    if (!gap) return 'no_end';
    const apart = gap.to - gap.from;
    return [place.fiber(first, 'left', gap.from, apart), place.fiber(second, 'right', gap.to, apart)];
  }
  const left = atLeft[0] && { strip: atLeft[0], end: place.endOf(atLeft[0], 'left') };
  const right = atRight[0] && { strip: atRight[0], end: place.endOf(atRight[0], 'right') };
  const apart = left && right ? Math.max(2, right.end - left.end) : Infinity;
  return [
    ...(left ? [place.fiber(left.strip, 'left', left.end, apart)] : []),
    ...(right ? [place.fiber(right.strip, 'right', right.end, apart)] : []),
  ];
}

interface Columns {
  readonly from: number;
  readonly to: number;
}
/** The columns between blocks that hold the fibers, which are dark from top to bottom; all of them where none is seen. */
function openColumns(dark: Uint8Array, width: number, height: number): Columns {
  const isBlock = (x: number): boolean => {
    let n = 0;
    for (let y = 0; y < height; y++) n += dark[y * width + x]!;
    return n > BLOCK.dark * height;
  };
  const most = BLOCK.most * width;
  let from = 0;
  let to = width - 1;
  while (from < most && isBlock(from)) from += 1;
  while (width - 1 - to < most && isBlock(to)) to -= 1;
  // What goes on further is no block.
  return { from: from < most ? from : 0, to: width - 1 - to < most ? to : width - 1 };
}

/** Whether there is much beside the strips that is dark and reaches from one border to the other. */
function isCrossed(
  dark: Uint8Array,
  width: number,
  height: number,
  open: Columns,
  strips: readonly Strip[],
): boolean {
  const beside = new Uint8Array(dark.length);
  let within = 0;
  for (let x = 0; x < width; x++) {
    for (let y = 0; y < height; y++) {
      if (!dark[y * width + x]) continue;
      const isWithin = strips.some(
        (s) => Math.abs(y - s.middle - s.slope * x) < s.height * BESIDE && x > s.from - 20 && x < s.to + 20,
      );
      // Bars and frames lie at the borders.
      const isFrame =
        y < 0.06 * height || y > 0.92 * height || x < open.from + 0.04 * width || x > open.to - 0.04 * width;
      if (isWithin) within += 1;
      else if (!isFrame) beside[y * width + x] = 1;
    }
  }
  const crossing = piecesOf(beside, width, height).filter((piece) => !isElectrode(piece, strips));
  return crossing.reduce((sum, piece) => sum + piece.size, 0) > CROSSING * within;
}

/** Looks along strips in the whole picture. */
class Place {
  constructor(
    private readonly image: GreyImage,
    private readonly light: Background,
    private readonly shrunk: number,
  ) {}

  fiber(strip: Strip, side: 'left' | 'right', end: number, gap: number): RoughFiber {
    return { side, end, gap, width: strip.height * this.shrunk, middle: (x) => this.middle(strip, x) };
  }
  private middle(strip: Strip, x: number): number {
    return (strip.middle + strip.slope * (x / this.shrunk) - 0.5) * this.shrunk + this.shrunk / 2;
  }

  /** How dark the sides of a strip are at a column: the upper and the lower one. */
  private sides(strip: Strip, x: number): [number, number] {
    const { image, light, shrunk } = this;
    const middle = this.middle(strip, x);
    const height = strip.height * shrunk;
    const side = (sign: number): number => {
      let sum = 0;
      let n = 0;
      for (let k = BANDS.from * height; k <= BANDS.to * height; k++) {
        const y = Math.round(middle + sign * k);
        if (y < 0 || y >= image.height) continue;
        sum += light.at(x / shrunk, y / shrunk) - image.data[y * image.width + x]!;
        n += 1;
      }
      return n === 0 ? 0 : sum / n;
    };
    return [side(-1), side(1)];
  }
  private profile(stripAt: (x: number) => Strip, from: number, to: number): { x: number; share: number }[] {
    const at: { x: number; up: number; down: number }[] = [];
    for (let x = Math.max(0, Math.round(from)); x <= Math.min(this.image.width - 1, Math.round(to)); x++) {
      const both = this.sides(stripAt(x), x);
      at.push({ x, up: both[0], down: both[1] });
    }
    const usual = (of: 'up' | 'down'): number =>
      Math.max(1, middleOf(Float32Array.from(at, (p) => Math.max(0, p[of]))));
    const up = usual('up');
    const down = usual('down');
    return at.map(({ x, up: u, down: d }) => ({ x, share: Math.max(u / up, d / down) }));
  }

  /** Where a strip that comes in from one side ends. */
  endOf(strip: Strip, side: 'left' | 'right'): number {
    const { shrunk } = this;
    const reach = strip.height * shrunk;
    const rough = (side === 'left' ? strip.to : strip.from) * shrunk;
    const inward = side === 'left' ? -1 : 1;
    const far = rough + inward * 2.5 * reach;
    const out = rough - inward * 0.8 * reach;
    const found = this.profile(() => strip, Math.min(far, out), Math.max(far, out));
    // From the fiber outwards: the last column before it gets light for good.
    const ordered = side === 'left' ? found : found.reverse();
    let end = rough;
    let lightFor = 0;
    const begin = ordered.findIndex((p) => Math.abs(p.x - rough) < 0.9 * reach);
    for (const p of ordered.slice(Math.max(0, begin))) {
      if (p.share > 0.5) {
        end = p.x;
        lightFor = 0;
      } else if (++lightFor > Math.max(2, LIGHT_FOR * reach)) break;
    }
    return end;
  }

  /** The light gap in a strip that runs from side to side, or in two that run into each other; null where there is none. */
  gapOf(left: Strip, right: Strip): { readonly from: number; readonly to: number } | null {
    const away = left.height * this.shrunk * FROM_BORDER;
    const found = this.profile(
      (x) => (x <= left.to * this.shrunk ? left : right),
      left.from * this.shrunk + away,
      right.to * this.shrunk - away,
    );
    const least = found.reduce((b, p) => (p.share < b.share ? p : b), { x: -1, share: Infinity });
    if (least.share > 0.72) return null;
    const half = (1 + Math.max(0, least.share)) / 2;
    const at = found.findIndex((p) => p.x === least.x);
    let from = at;
    let to = at;
    while (from > 0 && found[from]!.share < half) from -= 1;
    while (to < found.length - 1 && found[to]!.share < half) to += 1;
    return { from: found[from]!.x, to: found[to]!.x };
  }
}
