import type { Unit } from '../units/index.ts';
import type { Criterion } from './types.ts';

/** The unit that a criterion's limits are written in. */
export function unitOf(criterion: Criterion): Unit {
  switch (criterion.kind) {
    case 'measure':
    case 'readings':
      return criterion.unit;
    case 'timed':
      return 's';
    case 'loss':
      return 'dB';
    case 'count':
    case 'check':
    case 'grade':
    case 'map':
    case 'call':
      return '1';
    default: {
      const never: never = criterion;
      return never;
    }
  }
}
