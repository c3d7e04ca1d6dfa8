import type { AccountState, Erased, ErasureOutlook } from '@clear-mark/contract';

/** What a lead can do with an account, given how it stands. */
export type AccountAct =
  | 'code'
  | 'withdraw'
  | 'edit'
  | 'sessions'
  | 'factor'
  | 'pin'
  | 'close'
  | 'open'
  | 'held'
  | 'erase';

export function actsOf(account: AccountState): { value: AccountAct; label: string }[] {
  const held = { value: 'held', label: 'Take out all that is held' } as const;
  if (account.erased) return [held];
  const erase = { value: 'erase', label: 'Erase this person' } as const;
  if (account.disabled) return [{ value: 'open', label: 'Open the account again' }, held, erase];
  const acts: { value: AccountAct; label: string }[] = [
    { value: 'code', label: account.signsIn ? 'Code for a new password' : 'Code to join' },
    { value: 'edit', label: 'Name and role' },
  ];
  if (account.codeUntil !== null) acts.push({ value: 'withdraw', label: 'Withdraw the code' });
  if (account.signsIn) acts.push({ value: 'sessions', label: 'Sign out everywhere' });
  if (account.secondFactor) acts.push({ value: 'factor', label: 'Take the second factor away' });
  if (account.pin) acts.push({ value: 'pin', label: 'Take the PIN away' });
  acts.push({ value: 'close', label: 'Close the account' }, held, erase);
  return acts;
}

/** How an account stands, in a few words. */
export function stateOf(account: AccountState): string {
  if (account.erased) return 'erased';
  if (account.disabled) return 'closed';
  if (account.signsIn) return account.codeUntil === null ? 'can sign in' : 'new password asked for';
  return account.codeUntil === null ? 'cannot sign in' : 'invited';
}

/** `3 notes`, `1 note`; nothing where there are none. */
const counted = (n: number, one: string, many: string): string[] =>
  n === 0 ? [] : [`${n} ${n === 1 ? one : many}`];

/** What an erasure takes away. */
export function goesLines(found: ErasureOutlook): string[] {
  const texts = [
    ...counted(found.notes, 'note', 'notes'),
    ...counted(found.reasons, 'reason', 'reasons'),
    ...counted(found.gradings, 'remark on a picture', 'remarks on pictures'),
  ];
  return [
    `The name and the sign-in name, wherever they stand; ${counted(found.pieces, 'piece keeps', 'pieces keep')[0] ?? 'no piece has'} a made-up name instead.`,
    ...(texts.length > 0 ? [`What was written about this person: ${texts.join(', ')}.`] : []),
    ...(found.pictures > 0
      ? [`${counted(found.pictures, 'picture', 'pictures')[0]!}: each becomes a grey one of its size.`]
      : []),
    'The account: password, second factor, sessions, places in classes.',
  ];
}

/** What an erasure did. */
export const erasedLines = (done: Erased): string[] => [
  ...counted(done.notes + done.lateNotes, 'note erased', 'notes erased'),
  ...counted(done.reasons, 'reason erased', 'reasons erased'),
  ...counted(done.gradings, 'remark on a picture replaced', 'remarks on pictures replaced'),
  ...counted(done.labels, 'label replaced', 'labels replaced'),
  ...counted(done.pictures, 'picture replaced', 'pictures replaced'),
  ...counted(
    done.sharedPictures,
    'picture left, since it is somebody else’s too',
    'pictures left, since they are somebody else’s too',
  ),
  'Names in backups and in files that were taken out before stay until those are deleted.',
];

/** The address that opens a code; it stands behind the #, so that no server writes it into a log. */
export const joinAddress = (origin: string, code: string): string => `${origin}/join#${code}`;
export const codeIn = (hash: string): string => decodeURIComponent(hash.replace(/^#/, ''));
