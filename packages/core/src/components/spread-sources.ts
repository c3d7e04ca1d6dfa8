import type { RandomFactor } from './design.ts';
import type { NotIdentifiable } from './identify.ts';
import { type VarianceComponents, varianceComponents } from './variance-components.ts';

/** What can be told of readings and what not, and why. */
export interface SpreadSources {
  /** Components of the sources that these readings can tell apart; null where there are none. */
  readonly components: Extract<VarianceComponents, { kind: 'components' }> | null;
  /** Sources left out, each with its reason. */
  readonly left: readonly NotIdentifiable[];
}

/**
 * Variance components of those sources that the readings can tell apart. A source that they cannot tell is left out with
 * its reason; of two that group the readings alike the first stands for both, since either could be the cause. Input, source
 * and errors as `varianceComponents`. Example: trainees who each keep to an own bench, with cleavers that change hands: the
 * trainee (or bench, as `left` says) and the cleaver.
 */
export function spreadSourcesOf(
  values: ArrayLike<number>,
  factors: readonly RandomFactor[],
  confidence = 0.95,
): SpreadSources {
  const left: NotIdentifiable[] = [];
  let rest = factors;
  while (rest.length > 0) {
    const found = varianceComponents(values, rest, confidence);
    if (found.kind === 'components') return { components: found, left };
    left.push(...found.because);
    const out = new Set(
      found.because.flatMap(({ reason, sources }) =>
        reason === 'combined' || reason === 'same_groups' ? sources.slice(-1) : sources,
      ),
    );
    rest = rest.filter((f) => !out.has(f.source));
  }
  return { components: null, left };
}
