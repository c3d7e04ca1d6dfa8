import { DomainError } from '../domain-error.ts';

/** Kronrod's 15 points on -1 to 1 (QUADPACK, Piessens et al. 1983): places from 0 on, weights, and Gauss's 7 among them. */
const PLACES = [
  0, 0.20778495500789848, 0.4058451513773972, 0.5860872354676911, 0.7415311855993945, 0.8648644233597691,
  0.9491079123427585, 0.9914553711208126,
];
const KRONROD = [
  0.20948214108472782, 0.20443294007529889, 0.19035057806478542, 0.1690047266392679, 0.14065325971552592,
  0.10479001032225017, 0.06309209262997856, 0.022935322010529224,
];
const GAUSS = [0.4179591836734694, 0, 0.3818300505051189, 0, 0.27970539148927664, 0, 0.1294849661688697, 0];

const MOST_PIECES = 2000;

export interface Integral {
  readonly value: number;
  /** How far the value may be off, by the rule's own estimate: far above the true error for smooth functions. */
  readonly error: number;
}

interface Piece extends Integral {
  readonly from: number;
  readonly to: number;
}

/**
 * Integral of a function by adaptive Gauss-Kronrod quadrature of 7 and 15 points (QUADPACK's scheme): the worst piece is
 * halved until the estimated error is within `absolute` or within `relative` times the value. Places where the function
 * bends, steps or has a peak are told by `breaks`, about a narrow peak on both sides, since 15 points may all miss it; those
 * outside are left out, in any order. Units: those of f times those of x.
 * Errors: `stats.not_finite` where f is no number, `stats.no_convergence` after 2000 pieces. Example: exp(-x^2) from -9 to 9
 * is sqrt pi to 1e-15.
 */
export function integrate(
  f: (x: number) => number,
  from: number,
  to: number,
  { breaks = [], absolute = 1e-15, relative = 1e-13 }: Options = {},
): Integral {
  if (!(to > from)) return { value: 0, error: 0 };
  const inside = breaks.filter((x) => x > from && x < to).sort((a, b) => a - b);
  const ends = [from, ...inside, to];
  const pieces: Piece[] = ends
    .slice(1)
    .flatMap((end, i) => (end > ends[i]! ? [pieceOf(f, ends[i]!, end)] : []));
  for (;;) {
    const value = sum(pieces, (p) => p.value);
    const error = sum(pieces, (p) => p.error);
    if (error <= Math.max(absolute, relative * Math.abs(value))) return { value, error };
    let worst = 0;
    for (let i = 1; i < pieces.length; i++) if (pieces[i]!.error > pieces[worst]!.error) worst = i;
    const { from: a, to: b } = pieces[worst]!;
    const middle = (a + b) / 2;
    // Two neighbouring numbers: nothing lies between, and what is left is rounding.
    if (!(middle > a && middle < b)) return { value, error };
    if (pieces.length >= MOST_PIECES) throw new DomainError('stats.no_convergence', { from, to });
    pieces[worst] = pieceOf(f, a, middle);
    pieces.push(pieceOf(f, middle, b));
  }
}

interface Options {
  readonly breaks?: readonly number[];
  readonly absolute?: number;
  readonly relative?: number;
}

function pieceOf(f: (x: number) => number, from: number, to: number): Piece {
  const middle = (from + to) / 2;
  const half = (to - from) / 2;
  let kronrod = 0;
  let gauss = 0;
  let size = 0;
  for (let i = 0; i < PLACES.length; i++) {
    const [left, right] =
      i === 0 ? [f(middle), 0] : [f(middle - half * PLACES[i]!), f(middle + half * PLACES[i]!)];
    kronrod += KRONROD[i]! * (left + right);
    gauss += GAUSS[i]! * (left + right);
    size += KRONROD[i]! * (Math.abs(left) + Math.abs(right));
  }
  if (!Number.isFinite(kronrod)) throw new DomainError('stats.not_finite', { index: 0 });
  const apart = Math.abs(kronrod - gauss);
  // QUADPACK: 200 |K - G| to the power 1.5 where that is the smaller; never under what rounding leaves.
  const scaled = size > 0 ? size * Math.min(1, (200 * (apart / size)) ** 1.5) : 0;
  return { from, to, value: half * kronrod, error: half * Math.max(Math.min(apart, scaled), 4e-17 * size) };
}

function sum(pieces: readonly Piece[], of: (piece: Piece) => number): number {
  let total = 0;
  let lost = 0;
  for (const piece of pieces) {
    // Kahan's summation: many small pieces beside one large one.
    const next = of(piece) - lost;
    const after = total + next;
    lost = after - total - next;
    total = after;
  }
  return total;
}
