import { DomainError } from '../domain-error.ts';
import { studentQuantile } from '../special/index.ts';

export const SHAPES = ['standard', 'rectangular', 'triangular', 'u_shaped'] as const;
export type Shape = (typeof SHAPES)[number];

/** One contribution: its half-width (or standard uncertainty), how the result answers to it, and how well it is known. */
export interface Contribution {
  readonly name: string;
  readonly value: number;
  readonly shape: Shape;
  /** Change of the result a unit of this; 1 unless told. */
  readonly sensitivity?: number;
  /** Degrees of freedom; known without doubt unless told. */
  readonly freedom?: number;
}
export interface UncertaintyOf {
  readonly lines: readonly (Contribution & { readonly standard: number; readonly share: number })[];
  readonly standard: number;
  /** Effective degrees of freedom; null where all are known without doubt. */
  readonly freedom: number | null;
  readonly coverageFactor: number;
  readonly expanded: number;
}

const DIVISOR: Readonly<Record<Shape, number>> = { standard: 1, rectangular: 3, triangular: 6, u_shaped: 2 };

/**
 * Uncertainty budget of independent contributions in the unit of the result (JCGM 100:2008, 5.1.2 and 4.3): u the root sum
 * of squares of sensitivity times standard uncertainty; effective freedom by Welch and Satterthwaite (G.4.1). `k` as given
 * (2), or `student` for 95.45 % by the effective freedom (G.3.4). Errors: `metrology.bad_contribution`. Relative error under
 * 1e-12. Example: rectangular 0.1 and standard 0.03 give U = 0.130.
 */
export function uncertaintyOf(parts: readonly Contribution[], k: number | 'student' = 2): UncertaintyOf {
  const squares = parts.map((part) => {
    const sensitivity = part.sensitivity ?? 1;
    const known = part.freedom ?? Infinity;
    if (!(part.value >= 0) || part.value === Infinity || !Number.isFinite(sensitivity) || !(known > 0)) {
      throw new DomainError('metrology.bad_contribution', { name: part.name, value: part.value });
    }
    return (sensitivity * part.value) ** 2 / DIVISOR[part.shape];
  });
  if (k !== 'student' && !(k > 0))
    throw new DomainError('metrology.bad_contribution', { name: 'k', value: k });
  const variance = squares.reduce((sum, s) => sum + s, 0);
  const doubt = parts.reduce((sum, part, i) => sum + squares[i]! ** 2 / (part.freedom ?? Infinity), 0);
  const freedom = doubt > 0 ? variance ** 2 / doubt : null;
  const factor = k !== 'student' ? k : freedom === null ? 2 : studentQuantile((1 + 0.9545) / 2, freedom);
  return {
    lines: parts.map((part, i) => ({
      ...part,
      standard: Math.sqrt(squares[i]!),
      share: variance > 0 ? squares[i]! / variance : 0,
    })),
    standard: Math.sqrt(variance),
    freedom,
    coverageFactor: factor,
    expanded: factor * Math.sqrt(variance),
  };
}
