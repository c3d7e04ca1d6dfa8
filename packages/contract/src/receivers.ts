import { z } from 'zod';
import { Id, Instant, Label } from './common.ts';
import { ById, route } from './route.ts';

/** What other programs are told of. */
export const TOLD_EVENTS = [
  'piece.signed',
  'piece.amended',
  'trainee.signed_off',
  'certificate.issued',
  'certificate.withdrawn',
] as const;
export type ToldEvent = (typeof TOLD_EVENTS)[number];
/** A record store takes what was shown, and what was put right in it. */
export const STATEMENT_EVENTS: readonly ToldEvent[] = ['piece.signed', 'piece.amended'];

export const RECEIVER_KINDS = ['webhook', 'xapi'] as const;
export type ReceiverKind = (typeof RECEIVER_KINDS)[number];

const Address = z.url({ protocol: /^https?$/ }).max(500);

export const Receiver = z.object({
  id: Id,
  kind: z.enum(RECEIVER_KINDS),
  label: z.string(),
  address: z.string(),
  events: z.array(z.enum(TOLD_EVENTS)),
  paused: z.boolean(),
  /** Not told yet, and tried again. */
  waiting: z.number().int(),
  /** Given up. */
  lost: z.number().int(),
});
export type Receiver = z.infer<typeof Receiver>;

export const Delivery = z.object({
  id: Id,
  event: z.string(),
  at: Instant,
  tries: z.number().int(),
  nextTry: Instant,
  deliveredAt: Instant.nullable(),
  givenUpAt: Instant.nullable(),
  /** What the receiver answered last: a status, or why there was none. */
  lastAnswer: z.string(),
});
export type Delivery = z.infer<typeof Delivery>;

export const NewWebhookBody = z.object({
  id: Id,
  kind: z.literal('webhook'),
  label: Label,
  address: Address,
  events: z.array(z.enum(TOLD_EVENTS)).min(1),
});
export const NewStoreBody = z.object({
  id: Id,
  kind: z.literal('xapi'),
  label: Label,
  /** Under which `statements` lies. */
  address: Address,
  user: z.string().trim().min(1).max(200),
  password: z.string().min(1).max(200),
  /** The address by which this school is known in statements. */
  home: Address,
});
export const NewReceiverBody = z.discriminatedUnion('kind', [NewWebhookBody, NewStoreBody]);
export type NewReceiverBody = z.infer<typeof NewReceiverBody>;

const OfDelivery = ById.extend({ deliveryId: Id });

export const RECEIVER_ROUTES = {
  receivers: route('get /receivers', 'lead', { reply: z.array(Receiver) }),
  /** The key that webhooks are signed with is given once; null for a record store. */
  addReceiver: route('post /receivers', 'lead', {
    body: NewReceiverBody,
    reply: z.object({ secret: z.string().nullable() }),
    errors: ['receiver.address_refused', 'request.already_there'],
  }),
  pauseReceiver: route('put /receivers/:id/paused', 'lead', {
    params: ById,
    body: z.object({ paused: z.boolean() }),
    errors: ['not_found.receiver'],
  }),
  dropReceiver: route('delete /receivers/:id', 'lead', { params: ById, errors: ['not_found.receiver'] }),
  /** The newest fifty. */
  deliveries: route('get /receivers/:id/deliveries', 'lead', {
    params: ById,
    reply: z.array(Delivery),
    errors: ['not_found.receiver'],
  }),
  /** Sends something that says nothing, to see whether it comes through. */
  tryReceiver: route('post /receivers/:id/try', 'lead', { params: ById, errors: ['not_found.receiver'] }),
  sendAgain: route('post /receivers/:id/deliveries/:deliveryId', 'lead', {
    params: OfDelivery,
    errors: ['not_found.receiver'],
  }),
} as const;

/** What a class has shown, as statements (IEEE 9274.1.1). */
export const STATEMENTS_PATH = '/api/classes/:id/statements.json';
