import { DomainError } from '../domain-error.ts';
import { type Across, type Criterion, type Direction, DIRECTIONS } from './types.ts';

/** The most fibers that one criterion is read for. */
export const MAX_FIBERS = 144;

/** One reading's place among fibers, wavelengths (nm) and directions; null where the criterion has one only. */
export interface ReadingPart {
  readonly fiber: number | null;
  readonly wavelengthNm: number | null;
  readonly direction: Direction | null;
}

const KEY = /^(?:f(\d{1,3}))?\.?(?:(\d{3,4}))?\.?(a_b|b_a)?$/;

/**
 * A part as the text that entries carry. Empty for a criterion without parts.
 * Example: fiber 3 at 850 nm from B to A is `f3.850.b_a`; 1310 nm alone is `1310`.
 */
export function partKey(part: ReadingPart): string {
  return [part.fiber === null ? null : `f${part.fiber}`, part.wavelengthNm, part.direction]
    .filter((x) => x !== null)
    .join('.');
}

/** The part that a key names. Error: `value.unknown_part` for text that `partKey` cannot make. */
export function parsePart(key: string): ReadingPart {
  const match = KEY.exec(key);
  const part: ReadingPart = {
    fiber: match?.[1] === undefined ? null : Number(match[1]),
    wavelengthNm: match?.[2] === undefined ? null : Number(match[2]),
    direction: DIRECTIONS.find((d) => d === match?.[3]) ?? null,
  };
  if (!match || partKey(part) !== key) throw new DomainError('value.unknown_part', { given: key });
  return part;
}

/** All parts of a criterion in reading order: fiber by fiber, then wavelength, then direction. */
export function partsOf(criterion: Criterion): readonly ReadingPart[] {
  if (criterion.kind !== 'readings' && criterion.kind !== 'loss') return WHOLE;
  const across: Across = criterion;
  const fibers =
    across.fibers === undefined
      ? [null]
      : Array.from({ length: across.fibers }, (_, i) => i + 1).filter((f) => !across.darkFibers?.includes(f));
  const wavelengths = across.wavelengthsNm ?? [null];
  const directions = across.directions ?? [null];
  return fibers.flatMap((fiber) =>
    wavelengths.flatMap((wavelengthNm) =>
      directions.map((direction) => ({ fiber, wavelengthNm, direction })),
    ),
  );
}

const WHOLE: readonly ReadingPart[] = [{ fiber: null, wavelengthNm: null, direction: null }];
