import type { Coverage, Criterion } from './types.ts';

/**
 * How a criterion is filled. Required: every piece has a result. Trainee: by the trainee's own entry at the bench, witnessed or
 * not. Sampled: when an instructor sees it; not seen costs no points and leaves nothing open.
 */
export function coverageOf(criterion: Pick<Criterion, 'required' | 'acceptsTrainee'>): Coverage {
  if (criterion.required) return 'required';
  return criterion.acceptsTrainee ? 'trainee' : 'sampled';
}
