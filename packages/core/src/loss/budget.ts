import { DomainError } from '../domain-error.ts';
import type { UncertaintyPart } from '../sheet/index.ts';

export interface BudgetLine extends UncertaintyPart {
  /** Standard uncertainty, dB. */
  readonly standardDb: number;
  /** Its share of the variance, 0 to 1; 0 where nothing varies. */
  readonly share: number;
}
export interface Budget {
  readonly lines: readonly BudgetLine[];
  /** Combined standard uncertainty u and expanded uncertainty U = 2 u, dB. */
  readonly standardDb: number;
  readonly expandedDb: number;
}

const DIVISOR = { rectangular: 3, triangular: 6, standard: 1 } as const;

/**
 * Uncertainty budget (JCGM 100:2008, 4.3 and 5.1): each component as a standard uncertainty, a rectangular half-width a
 * as a / sqrt(3), a triangular one a / sqrt(6); u their root sum of squares, U = 2 u; components taken as independent.
 * Error: `loss.bad_uncertainty` for a component under 0 or without a number. Relative error under 1e-15 a component.
 * Example: rectangular 0.1 and standard 0.03 give U = 0.130 dB, of which the first carries 79 % of the variance.
 */
export function uncertaintyBudget(parts: readonly UncertaintyPart[]): Budget {
  const squares = parts.map((part) => {
    if (!(part.db >= 0) || !Number.isFinite(part.db)) {
      throw new DomainError('loss.bad_uncertainty', { name: part.name, db: part.db });
    }
    return (part.db * part.db) / DIVISOR[part.shape];
  });
  const variance = squares.reduce((sum, s) => sum + s, 0);
  const standardDb = Math.sqrt(variance);
  return {
    lines: parts.map((part, i) => ({
      ...part,
      standardDb: Math.sqrt(squares[i]!),
      share: variance > 0 ? squares[i]! / variance : 0,
    })),
    standardDb,
    expandedDb: 2 * standardDb,
  };
}
