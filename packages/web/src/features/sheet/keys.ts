/** The keys of the bench view, in the order in which the list shows them. */
export const KEYS = [
  { key: 'Enter', does: 'Pass a check, take a typed value, and go on' },
  { key: 'X', does: 'Fail the check' },
  {
    key: '0 – 9',
    does: 'Type into the current measurement; choose a level of a scale; 1 good, 2 bad for a call',
  },
  { key: 'S', does: 'Not seen' },
  { key: 'P', does: 'Pass the checks of this step that are open' },
  { key: 'E', does: 'Everything that is only scored when seen and is still open: not seen' },
  { key: '!', does: 'Stop: end the piece for safety' },
  { key: 'T', does: 'Start or stop the timer' },
  { key: 'N', does: 'Note' },
  { key: 'Z', does: 'Undo the last entry' },
  { key: '↓ ↑', does: 'Next and previous criterion' },
  { key: '] [', does: 'Next and previous trainee' },
  { key: '/', does: 'Find a trainee, piece, method or place; on every page' },
  { key: 'G', does: 'Sign' },
  { key: '?', does: 'This list' },
] as const;

export type SheetAct =
  | 'accept'
  | 'fail'
  | 'not_seen'
  | 'pass_step'
  | 'rest_not_seen'
  | 'stop'
  | 'timer'
  | 'note'
  | 'undo'
  | 'next'
  | 'previous'
  | 'next_trainee'
  | 'previous_trainee'
  | 'sign'
  | 'help';

const ACTS: Readonly<Record<string, SheetAct>> = {
  Enter: 'accept',
  x: 'fail',
  s: 'not_seen',
  p: 'pass_step',
  e: 'rest_not_seen',
  '!': 'stop',
  t: 'timer',
  n: 'note',
  z: 'undo',
  ArrowDown: 'next',
  ArrowUp: 'previous',
  ']': 'next_trainee',
  '[': 'previous_trainee',
  g: 'sign',
  '?': 'help',
};

export interface KeyPress {
  readonly key: string;
  readonly modified: boolean;
  /** Where the focus is: nowhere special, one of our number fields, a control, or a field for text. */
  readonly focus: 'page' | 'number' | 'control' | 'text';
}

/** What a key press means on the sheet; null when it is not ours. */
export function actOfKey({ key, modified, focus }: KeyPress): SheetAct | null {
  if (modified || focus === 'text') return null;
  const act = ACTS[key.length === 1 ? key.toLowerCase() : key] ?? null;
  // Enter on a button presses the button.
  if (act === 'accept' && focus === 'control') return null;
  return act;
}

/** A figure, where no field is typed into: a level, a call, or the beginning of a number. */
export const isDigitKey = ({ key, modified, focus }: KeyPress): boolean =>
  !modified && (focus === 'page' || focus === 'control') && /^[0-9.,-]$/.test(key);

export function focusKind(target: HTMLElement): KeyPress['focus'] {
  if (target instanceof HTMLInputElement && target.dataset['number'] !== undefined) return 'number';
  if (target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement) return 'text';
  if (target instanceof HTMLButtonElement || target instanceof HTMLSelectElement) return 'control';
  if (target instanceof HTMLAnchorElement || target.tagName === 'SUMMARY') return 'control';
  return 'page';
}
