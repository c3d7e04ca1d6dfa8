/** How a trainee's hand works at one moment of the course. Chances are per piece. */
export interface Hand {
  /** Bias and spread of a stripped length, mm. */
  readonly stripBiasMm: number;
  readonly stripSpreadMm: number;
  readonly cleaveLengthBiasMm: number;
  readonly cleaveLengthSpreadMm: number;
  /** Scale of the cleave angle, degrees: the median of a sound cleaver's cleaves. */
  readonly cleaveAngleDeg: number;
  /** Chance of a slip in a plain step of a skill. */
  readonly slip: number;
  readonly forgetsBoot: number;
  /** Chance that the faces are not cleaned as the method says. */
  readonly leavesDirt: number;
  readonly testSlip: number;
}

/** What the bench adds to the hand. */
export interface Surroundings {
  /** 1 for a sharp blade; the cleave angle is multiplied by it. */
  readonly cleaverWear: number;
}

/** A hand without practice and one at the end of the course; `skill` from 0 to 1 lies between. */
export function handBetween(raw: Hand, good: Hand, skill: number): Hand {
  const mix = (key: keyof Hand): number => raw[key] + (good[key] - raw[key]) * skill;
  return {
    stripBiasMm: mix('stripBiasMm'),
    stripSpreadMm: mix('stripSpreadMm'),
    cleaveLengthBiasMm: mix('cleaveLengthBiasMm'),
    cleaveLengthSpreadMm: mix('cleaveLengthSpreadMm'),
    cleaveAngleDeg: mix('cleaveAngleDeg'),
    slip: mix('slip'),
    forgetsBoot: mix('forgetsBoot'),
    leavesDirt: mix('leavesDirt'),
    testSlip: mix('testSlip'),
  };
}
