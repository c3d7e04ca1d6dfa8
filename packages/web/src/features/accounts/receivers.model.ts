import type { Delivery, Receiver } from '@clear-mark/contract';
import { momentWords } from '../../shared/time-words.ts';

/** What a lead can do with a program that is told what happens. */
export type ReceiverAct = 'told' | 'try' | 'pause' | 'go_on' | 'drop';

export const receiverActs = ({ paused }: Receiver): { value: ReceiverAct; label: string }[] => [
  { value: 'told', label: 'What it was told' },
  { value: 'try', label: 'Try whether it answers' },
  paused ? { value: 'go_on', label: 'Tell it again' } : { value: 'pause', label: 'Pause' },
  { value: 'drop', label: 'Tell it no longer' },
];

/** How a program stands, in a few words. */
export function receiverState({ paused, waiting, lost }: Receiver): string {
  if (paused) return 'paused';
  if (waiting > 0) return `${waiting} not told yet`;
  return lost > 0 ? `${lost} given up` : 'told of everything';
}

/** How one telling went: `taken (204)`, `503, tried 2 times, again at 14:05`. */
export function deliveryState({ deliveredAt, givenUpAt, tries, lastAnswer, nextTry }: Delivery): string {
  if (deliveredAt !== null) return `taken (${lastAnswer})`;
  if (tries === 0) return 'not sent yet';
  const times = tries === 1 ? 'once' : `${tries} times`;
  if (givenUpAt !== null) return `${lastAnswer}, tried ${times}, given up`;
  return `${lastAnswer || 'under way'}, tried ${times}, again ${momentWords(nextTry, 'short')}`;
}
