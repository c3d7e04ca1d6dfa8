import { z } from 'zod';
import { Id, Instant, Name, oneOf, ROLES } from './common.ts';
import { Account, Login, Password, Person, SecondFactorCode } from './people.ts';
import { ById, route } from './route.ts';

/** Days for which an invitation holds, and hours of a code for a new password. */
export const INVITATION_DAYS = 14;
export const RESET_HOURS = 48;

/** An account as the lead sees it. */
export const AccountState = Account.extend({
  /** Has a password: can sign in. */
  signsIn: z.boolean(),
  disabled: z.boolean(),
  /** What named the person is gone for good. */
  erased: z.boolean(),
  /** Comes in at bench devices by a PIN. */
  pin: z.boolean(),
  secondFactor: z.boolean(),
  /** Until when a code that was given out holds; null where there is none. */
  codeUntil: Instant.nullable(),
  lastSignIn: Instant.nullable(),
});
export type AccountState = z.infer<typeof AccountState>;

/** A code as a person types it: letters and digits in groups; what is between them is left out. */
export const JoinCode = z
  .string()
  .trim()
  .max(40)
  .transform((code) => code.toUpperCase().replace(/[^A-Z0-9]/g, ''))
  .pipe(z.string().length(15));

/** Given out once, to be handed on by word, by paper or in a message; `mail` where the school has a mail server for it. */
export const GivenCode = z.object({ code: z.string(), until: Instant, mail: z.boolean() });
export type GivenCode = z.infer<typeof GivenCode>;

/** What a code is for, to whoever has it. `login` is null where the person still chooses one. */
export const Invitation = z.object({
  name: z.string(),
  login: z.string().nullable(),
  secondFactor: z.boolean(),
});
export type Invitation = z.infer<typeof Invitation>;

export const JoinBody = z.object({ code: JoinCode, login: Login.nullable(), password: Password });
export const AccountChangeBody = z.object({ name: Name, role: oneOf(ROLES) });
export const NewInviteBody = z.object({ id: Id, name: Name, role: oneOf(ROLES) });

export const MailCodeBody = z.object({ code: JoinCode, to: z.email().max(254) });

export const ACCOUNT_ROUTES = {
  accounts: route('get /accounts', 'lead', { reply: z.array(AccountState) }),
  /** A new account without a password, with the code by which its person makes it their own. */
  inviteAccount: route('post /accounts', 'lead', {
    body: NewInviteBody,
    reply: GivenCode,
    errors: ['request.already_there'],
  }),
  /** A code for somebody who is there: to join, or to set a new password. An earlier one ends. */
  giveCode: route('post /accounts/:id/code', 'lead', {
    params: ById,
    reply: GivenCode,
    errors: ['not_found.person', 'account.disabled'],
  }),
  /** Sends a code that was just given out to an address, which is kept nowhere. */
  mailCode: route('post /accounts/:id/code/mail', 'lead', {
    params: ById,
    body: MailCodeBody,
    errors: ['not_found.person', 'account.bad_code', 'mail.not_set_up', 'mail.refused'],
  }),
  withdrawCode: route('delete /accounts/:id/code', 'lead', { params: ById, errors: ['not_found.person'] }),
  changeAccount: route('put /accounts/:id', 'lead', {
    params: ById,
    body: AccountChangeBody,
    errors: ['not_found.person', 'account.last_lead', 'account.role_in_class'],
  }),
  disableAccount: route('put /accounts/:id/disabled', 'lead', {
    params: ById,
    body: z.object({ disabled: z.boolean() }),
    errors: ['not_found.person', 'account.last_lead'],
  }),
  endSessionsOf: route('delete /accounts/:id/sessions', 'lead', {
    params: ById,
    errors: ['not_found.person'],
  }),
  /** For a lost phone: the next sign-in needs the password alone. */
  dropSecondFactorOf: route('delete /accounts/:id/second-factor', 'lead', {
    params: ById,
    errors: ['not_found.person'],
  }),

  /** What a code is for. A wrong, an ended and an unknown code are one answer. */
  lookAtCode: route('post /join/look', 'open', {
    body: z.object({ code: JoinCode }),
    reply: Invitation,
    errors: ['account.bad_code', 'auth.throttled'],
  }),
  join: route('post /join', 'open', {
    body: JoinBody,
    /** Null where the second factor is still asked for, at signing in. */
    reply: Person.nullable(),
    errors: [
      'account.bad_code',
      'account.login_needed',
      'auth.throttled',
      'person.login_taken',
      'auth.weak_password',
      'auth.common_password',
      'auth.own_name_password',
    ],
  }),

  changeOwnPassword: route('put /me/password', 'signed_in', {
    body: z.object({ current: Password, next: Password }),
    errors: [
      'auth.bad_credentials',
      'auth.throttled',
      'auth.weak_password',
      'auth.common_password',
      'auth.own_name_password',
    ],
  }),
  /** Everywhere but here. */
  endOwnSessions: route('delete /me/sessions', 'signed_in', {}),
  ownAccount: route('get /me/account', 'signed_in', {
    reply: z.object({
      login: z.string(),
      sessions: z.number().int(),
      pin: z.boolean(),
      secondFactor: z.boolean(),
      /** A lead has to have one here. */
      secondFactorRequired: z.boolean(),
      recoveryCodesLeft: z.number().int(),
    }),
  }),
  /** A new secret, kept aside until a code of it was given. */
  beginSecondFactor: route('post /me/second-factor', 'signed_in', {
    body: z.object({ password: Password }),
    reply: z.object({ secret: z.string(), address: z.string() }),
    errors: ['auth.bad_credentials', 'auth.throttled'],
  }),
  confirmSecondFactor: route('put /me/second-factor', 'signed_in', {
    body: z.object({ code: SecondFactorCode }),
    reply: z.object({ recoveryCodes: z.array(z.string()) }),
    errors: ['auth.bad_second_factor', 'auth.throttled', 'account.no_secret'],
  }),
  dropOwnSecondFactor: route('post /me/second-factor/off', 'signed_in', {
    body: z.object({ password: Password }),
    errors: ['auth.bad_credentials', 'auth.throttled', 'account.second_factor_required'],
  }),
  requireSecondFactor: route('put /accounts/second-factor', 'lead', {
    body: z.object({ required: z.boolean() }),
    errors: ['account.no_second_factor'],
  }),
  secondFactorRequired: route('get /accounts/second-factor', 'lead', {
    reply: z.object({ required: z.boolean() }),
  }),
} as const;
