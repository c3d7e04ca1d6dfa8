import { z } from 'zod';
import { Id, Name, oneOf, ROLES } from './common.ts';

export const Person = z.object({ id: Id, name: Name, login: z.string(), role: oneOf(ROLES) });
export type Person = z.infer<typeof Person>;

/** An account with the classes that its person is in, by name. */
export const Account = Person.extend({ classes: z.array(z.object({ id: Id, name: Name })) });
export type Account = z.infer<typeof Account>;

export const Login = z
  .string()
  .trim()
  .toLowerCase()
  .regex(/^[a-z0-9][a-z0-9._-]{1,39}$/, 'small letters, digits, dots and dashes, 2 to 40 of them');
export const Password = z.string().min(1).max(200);

/** Six digits of an authenticator, or one of the recovery codes. */
export const SecondFactorCode = z
  .string()
  .trim()
  .transform((code) => code.replace(/[\s-]/g, '').toUpperCase())
  .pipe(z.string().regex(/^([0-9]{6}|[A-Z0-9]{10})$/, 'six digits, or a recovery code'));
export const SignInBody = z.object({
  login: Login,
  password: Password,
  /** Of the second factor, where the account has one. */
  code: SecondFactorCode.optional(),
});
export const DemoSignInBody = z.object({ role: z.enum(['instructor', 'lead', 'trainee']) });
export const SetupBody = z.object({
  code: z.string().trim().min(4).max(40),
  name: Name,
  login: Login,
  password: Password,
});
/** What the start page needs to know before anyone has signed in. */
export const StartInfo = z.object({
  demo: z.boolean(),
  setupNeeded: z.boolean(),
  me: Person.nullable(),
  /** Came in by a PIN at a bench device, where somebody else goes on in a moment. */
  byPin: z.boolean(),
  /** Locks what this person leaves unsent on a device; for a session of the same person only. */
  deviceKey: z.string().nullable(),
  /** This person has to set up a second factor before anything else. */
  needsSecondFactor: z.boolean(),
});
export type StartInfo = z.infer<typeof StartInfo>;
