import { type Hand, handBetween, normal, type Rng } from '@clear-mark/sim';
import { STORIES } from './scenario.ts';

const RAW: Hand = {
  stripBiasMm: 0.7,
  stripSpreadMm: 1.9,
  cleaveLengthBiasMm: 0.12,
  cleaveLengthSpreadMm: 0.5,
  cleaveAngleDeg: 0.85,
  slip: 0.3,
  forgetsBoot: 0.1,
  leavesDirt: 0.42,
  testSlip: 0.45,
};

const GOOD: Hand = {
  stripBiasMm: 0.1,
  stripSpreadMm: 0.7,
  cleaveLengthBiasMm: 0,
  cleaveLengthSpreadMm: 0.17,
  cleaveAngleDeg: 0.36,
  slip: 0.03,
  forgetsBoot: 0.005,
  leavesDirt: 0.05,
  testSlip: 0.05,
};

export interface TraineeHand {
  readonly at: (piece: number) => Hand;
}

/** The hand of everybody when there is no story: one and the same from the first piece to the last. */
const FLAT = handBetween(RAW, GOOD, 0.7);
/** Of people who have done this for some time. */
export const PRACTISED = handBetween(RAW, GOOD, 0.85);

/** One hand a trainee. Without a story neither person nor practice matters. */
export function traineeHands(count: number, story: boolean, rng: Rng): TraineeHand[] {
  return Array.from({ length: count }, (_, index) => {
    if (!story) return { at: () => FLAT };
    const pieces = index === STORIES.readyEarly ? 1.5 : Math.max(4, normal(rng, 9, 2.5));
    const talent = Math.max(-0.1, normal(rng, 0, 0.08));
    return {
      at: (piece) => {
        const practice = Math.min(1, Math.max(0, 1 - Math.exp(-piece / pieces) + talent));
        return { ...handBetween(RAW, GOOD, practice), ...peculiarity(index) };
      },
    };
  });
}

function peculiarity(index: number): Partial<Hand> {
  if (index === STORIES.forgetsBoot) return { forgetsBoot: 0.38 };
  if (index === STORIES.stuckOnCleaving) {
    return { cleaveAngleDeg: 0.92, cleaveLengthSpreadMm: 0.5, cleaveLengthBiasMm: 0.2 };
  }
  return {};
}
