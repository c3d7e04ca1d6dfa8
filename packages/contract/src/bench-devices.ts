import { z } from 'zod';
import { Id, Instant, Label, Name, oneOf, ROLES } from './common.ts';
import { Password, Person } from './people.ts';
import { ById, CLASS_ERRORS, route } from './route.ts';

/** Four to eight digits. */
export const Pin = z
  .string()
  .trim()
  .regex(/^[0-9]{4,8}$/, '4 to 8 digits');

/** The PIN of everybody in the demo, where nobody has a password. */
export const DEMO_PIN = '4071';

/** A device that stays at a bench of a class. */
export const BenchDevice = z.object({
  id: Id,
  label: z.string(),
  madeBy: z.string(),
  madeAt: Instant,
  /** The device that asks is this one. */
  here: z.boolean(),
});
export type BenchDevice = z.infer<typeof BenchDevice>;

/** What a bench device shows before anybody has come in: who of its class has a PIN. */
export const BenchDoor = z.object({
  label: z.string(),
  className: z.string(),
  people: z.array(z.object({ id: Id, name: Name, role: oneOf(ROLES) })),
});
export type BenchDoor = z.infer<typeof BenchDoor>;

export const BENCH_ROUTES = {
  /** Null where the device that asks is no bench device, or is one no longer. */
  benchDoor: route('get /bench', 'open', { reply: BenchDoor.nullable() }),
  enterByPin: route('post /bench', 'open', {
    body: z.object({ personId: Id, pin: Pin }),
    reply: Person,
    errors: ['bench.none', 'auth.bad_pin', 'auth.throttled'],
  }),
  benchDevices: route('get /classes/:id/benches', 'instructor', {
    params: ById,
    reply: z.array(BenchDevice),
    errors: CLASS_ERRORS,
  }),
  /** Makes the device that asks a bench device of the class; one that it was before ends. */
  addBenchDevice: route('post /classes/:id/benches', 'instructor', {
    params: ById,
    body: z.object({ id: Id, label: Label }),
    errors: [...CLASS_ERRORS, 'request.already_there'],
  }),
  endBenchDevice: route('delete /classes/:id/benches/:benchId', 'instructor', {
    params: ById.extend({ benchId: Id }),
    errors: [...CLASS_ERRORS, 'bench.none'],
  }),
  setPin: route('put /me/pin', 'signed_in', {
    body: z.object({ password: Password, pin: Pin }),
    errors: ['auth.bad_credentials', 'auth.throttled', 'auth.weak_pin', 'account.lead_no_pin'],
  }),
  dropOwnPin: route('delete /me/pin', 'signed_in', {}),
  /** For a PIN that others know. */
  dropPinOf: route('delete /accounts/:id/pin', 'lead', { params: ById, errors: ['not_found.person'] }),
} as const;
