/** A splice read from both sides. Losses in dB, a gain negative. */
export type BothDirections =
  | {
      readonly state: 'complete';
      readonly lossDb: number;
      readonly fieldStepDb: number;
      readonly gainer: boolean;
    }
  | { readonly state: 'one_missing' };

/**
 * The loss of one splice from its two one-way readings: their mean; a negative mean is kept. Half the difference is
 * the step of the mode field, which shows as a loss one way and as a gain the other. One direction alone has no
 * value (common practice of two-way splice loss). Example: 0.18 and -0.06 dB are a loss of 0.06 dB with a step of 0.12 dB.
 */
export function bothDirections(forwardDb: number | null, backDb: number | null): BothDirections {
  if (forwardDb === null || backDb === null) return { state: 'one_missing' };
  return {
    state: 'complete',
    lossDb: (forwardDb + backDb) / 2,
    fieldStepDb: (forwardDb - backDb) / 2,
    gainer: forwardDb < 0 || backDb < 0,
  };
}
