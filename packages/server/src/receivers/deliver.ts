import { createHmac } from 'node:crypto';
import type { Logger } from 'pino';
import type { Database } from '../database/database.ts';
import type { ChangeNotifier } from '../live/index.ts';
import { type Due, receiversStore } from './receivers.store.ts';
import { statementsOf } from './statements.ts';

/** How long is waited after each failed try; after the last one it is given up. Together about two days. */
export const WAITS_S = [10, 60, 300, 1800, 7200, 21_600, 43_200, 86_400];
const LOOK_EVERY_MS = 5000;
const ANSWER_MS = 10_000;
const FORGET_EVERY_MS = 3_600_000;
/** A receiver that says it is gone for good is not asked again. */
const GONE = 410;
/** In the version of IEEE 9274.1.1. */
const XAPI_VERSION = '2.0.0';

interface Request {
  readonly address: string;
  readonly headers: Readonly<Record<string, string>>;
  readonly body: string;
}

/**
 * The signature of a webhook by the Standard Webhooks specification, 1.0: HMAC-SHA256 over id, seconds and body, by the key behind
 * `whsec_`.
 */
export function signatureOf(secret: string, id: string, seconds: number, body: string): string {
  const key = Buffer.from(secret.replace(/^whsec_/, ''), 'base64');
  return `v1,${createHmac('sha256', key).update(`${id}.${seconds}.${body}`).digest('base64')}`;
}

/** What happened, by ids: whoever is told asks for the rest with a token, and gets no more than that allows. */
function webhook({ id, event, at, classId, subjectId, revision, address, secret }: Due, now: Date): Request {
  const body = JSON.stringify({
    type: event,
    timestamp: new Date(at).toISOString(),
    data: { classId, subjectId, revision },
  });
  const seconds = Math.floor(now.getTime() / 1000);
  return {
    address,
    body,
    headers: {
      'Content-Type': 'application/json',
      'webhook-id': id,
      'webhook-timestamp': String(seconds),
      'webhook-signature': signatureOf(secret, id, seconds, body),
    },
  };
}

const xapiHeaders = (secret: string): Readonly<Record<string, string>> => ({
  'X-Experience-API-Version': XAPI_VERSION,
  Authorization: `Basic ${Buffer.from(secret).toString('base64')}`,
});

async function statements(db: Database, due: Due): Promise<Request | null> {
  const { subjectId, revision, secret, home } = due;
  const record = subjectId === null ? null : await receiversStore(db).record(subjectId, revision ?? 1);
  // A try asks for what is there: it writes nothing into a store of records.
  if (!record) return null;
  return {
    address: `${due.address.replace(/\/$/, '')}/statements`,
    body: JSON.stringify(statementsOf(record, home)),
    headers: { 'Content-Type': 'application/json', ...xapiHeaders(secret) },
  };
}

const about = (due: Due): Request => ({
  address: `${due.address.replace(/\/$/, '')}/about`,
  body: '',
  headers: xapiHeaders(due.secret),
});

/** Sends one thing. What comes back is not read; a redirect is not followed: it would lead to where nobody chose. */
async function send({ address, headers, body }: Request): Promise<number> {
  const response = await fetch(address, {
    method: body === '' ? 'GET' : 'POST',
    headers,
    ...(body === '' ? {} : { body }),
    redirect: 'manual',
    signal: AbortSignal.timeout(ANSWER_MS),
  });
  await response.body?.cancel();
  return response.status;
}

/** Sends what is due to one receiver and notes how it went. */
async function deliver(db: Database, due: Due, now: Date): Promise<void> {
  const store = receiversStore(db);
  const request = due.kind === 'webhook' ? webhook(due, now) : ((await statements(db, due)) ?? about(due));
  let answer: string;
  try {
    const status = await send(request);
    if (status >= 200 && status < 300) return await store.delivered(due.id, String(status));
    answer = String(status);
    if (status === GONE) return await store.givenUp(due.id, answer);
  } catch (error) {
    answer = (error as Error).name === 'TimeoutError' ? 'no answer in 10 s' : 'not reached';
  }
  const wait = WAITS_S[due.tries];
  if (wait === undefined) await store.givenUp(due.id, answer);
  else await store.failed(due.id, answer, wait);
}

/** Sends all that is due now, and how many there were. */
export async function deliverDue(db: Database, now: () => Date): Promise<number> {
  const due = await receiversStore(db).take();
  // Taking is a change itself: a lease that holds whatever becomes of the sending.
  // eslint-disable-next-line server/check-then-write
  await Promise.all(due.map((one) => deliver(db, one, now())));
  return due.length;
}

/** From now on this process sends what is due, at the bell and every few seconds; gives back what ends it. */
export function startDeliveries(
  db: Database,
  notifier: ChangeNotifier,
  now: () => Date,
  log: Logger,
): () => Promise<void> {
  let stopped = false;
  let underWay: Promise<void> | null = null;
  const look = async (): Promise<void> => {
    try {
      while (!stopped && (await deliverDue(db, now)) > 0);
    } catch (error) {
      if (!stopped) log.warn({ err: error }, 'deliveries');
    }
  };
  const turn = (): void => {
    if (stopped || underWay) return;
    underWay = look().finally(() => (underWay = null));
  };
  const leave = notifier.listen('delivery', turn);
  const looking = setInterval(turn, LOOK_EVERY_MS);
  const forgetting = setInterval(
    () =>
      void receiversStore(db)
        .forgetOld()
        .catch((error: unknown) => log.warn({ err: error }, 'deliveries')),
    FORGET_EVERY_MS,
  );
  return async () => {
    stopped = true;
    clearInterval(looking);
    clearInterval(forgetting);
    leave();
    await underWay;
  };
}
