import type { AccountState } from '@clear-mark/contract';

/** What a lead can do with an account, given how it stands. */
export type AccountAct = 'code' | 'withdraw' | 'edit' | 'sessions' | 'factor' | 'close' | 'open';

export function actsOf(account: AccountState): { value: AccountAct; label: string }[] {
  if (account.disabled) return [{ value: 'open', label: 'Open the account again' }];
  const acts: { value: AccountAct; label: string }[] = [
    { value: 'code', label: account.signsIn ? 'Code for a new password' : 'Code to join' },
    { value: 'edit', label: 'Name and role' },
  ];
  if (account.codeUntil !== null) acts.push({ value: 'withdraw', label: 'Withdraw the code' });
  if (account.signsIn) acts.push({ value: 'sessions', label: 'Sign out everywhere' });
  if (account.secondFactor) acts.push({ value: 'factor', label: 'Take the second factor away' });
  acts.push({ value: 'close', label: 'Close the account' });
  return acts;
}

/** How an account stands, in a few words. */
export function stateOf(account: AccountState): string {
  if (account.disabled) return 'closed';
  if (account.signsIn) return account.codeUntil === null ? 'can sign in' : 'new password asked for';
  return account.codeUntil === null ? 'cannot sign in' : 'invited';
}

/** The address that opens a code; it stands behind the #, so that no server writes it into a log. */
export const joinAddress = (origin: string, code: string): string => `${origin}/join#${code}`;
export const codeIn = (hash: string): string => decodeURIComponent(hash.replace(/^#/, ''));
