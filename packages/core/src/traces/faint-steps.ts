import { levelAt, type RunningSums } from './running-line.ts';
import { type Edge, LEAST_LINE, type Stretch } from './stretches.ts';
import { sdAt, type TraceNoise } from './trace-noise.ts';

/** A step of fewer deviations of a point is placed anew: single points do not show where it begins. */
const FAINT_SD = 12;
/** How many points around the first guess are tried. */
const AROUND = 100;

interface Points {
  readonly levels: Float64Array;
  readonly noise: TraceNoise;
  readonly sums: RunningSums;
  /** Points of a pulse. */
  readonly pulse: number;
}

/**
 * Places steps that are faint in the noise where both lines together fit best (least squares over the place of a change of level), and fits the
 * lines anew up to there and from a pulse behind it on. Changes both lists.
 */
export function placeFaintSteps(stretches: Stretch[], edges: Edge[][], points: Points): void {
  const { noise, sums, pulse } = points;
  for (const [i, group] of edges.entries()) {
    const [edge] = group;
    const left = stretches[i]!;
    const right = stretches[i + 1];
    if (!right || group.length > 1 || edge!.rises) continue;
    const before = levelAt(left.line, edge!.at);
    const step = Math.abs(before - levelAt(right.line, edge!.at));
    if (step > FAINT_SD * sdAt(noise, before)) continue;
    const from = Math.max(left.from + LEAST_LINE, edge!.at - AROUND);
    const to = Math.min(right.to - LEAST_LINE - pulse, edge!.at + AROUND);
    if (from >= to) continue;
    const at = bestPlace(left, right, from, to, points);
    edges[i] = [{ at, rises: false }];
    stretches[i] = { from: left.from, to: at, line: sums.line(left.from, at) };
    stretches[i + 1] = { from: at + pulse, to: right.to, line: sums.line(at + pulse, right.to) };
  }
}

/** From the sum of squares for one place to that for the next only the point in the middle of the step changes sides. */
function bestPlace(
  left: Stretch,
  right: Stretch,
  from: number,
  to: number,
  { levels, pulse }: Points,
): number {
  let best = from;
  let least = 0;
  let sum = 0;
  for (let at = from; at < to; at++) {
    if (sum < least) {
      least = sum;
      best = at;
    }
    const middle = at + Math.floor(pulse / 2);
    sum +=
      (levels[middle]! - levelAt(left.line, middle)) ** 2 -
      (levels[middle]! - levelAt(right.line, middle)) ** 2;
  }
  return best;
}
