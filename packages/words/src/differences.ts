import type { Differences } from '@clear-mark/contract';
import { skillInText, thingInText } from './names.ts';

type Found = Differences['skills'][number];
const points = (share: number): string => `${Math.round(100 * Math.abs(share))}`;

/** Who or what stands apart in a skill, against whom, by how much, and what that speaks for. */
export function differenceWords(found: Found): string {
  const { source, label, skill, difference, low, high, k, n } = found;
  const worse = difference < 0;
  const [least, most] = [low, high].map(Math.abs).sort((a, b) => a - b);
  const by = `${points(difference)} points ${worse ? 'fewer' : 'more'} pass (${points(least!)} to ${points(most!)})`;
  const rate = `${k} of ${n} passed`;
  const name = skillInText(skill);
  if (source === 'trainee') {
    return `${label}, ${name}: ${by} than of the others in the same weeks; ${rate}. That speaks for the trainee.`;
  }
  const kind = thingInText(source);
  return `${label}, ${name}: ${by} than with another ${kind} in the same hands in the same weeks; ${rate}. That speaks for the ${kind}, not the trainees.`;
}

/** When nothing stands apart: what that means, and what it does not. */
export function noDifferenceWords(compared: number): string {
  return compared === 0
    ? 'Nobody shared a week, and no tool changed hands, so trainee and tool cannot be told apart here. Let tools swap for a few pieces.'
    : 'Neither a trainee nor a tool stands apart from the others beyond chance.';
}
