import { randomBytes } from 'node:crypto';
import {
  type Delivery,
  type NewReceiverBody,
  type Person,
  type Receiver,
  STATEMENT_EVENTS,
} from '@clear-mark/contract';
import { record } from '../audit/index.ts';
import type { Config } from '../config.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { receiversStore } from './receivers.store.ts';

const LOOPBACK = new Set(['127.0.0.1', 'localhost', '[::1]']);

/** Over TLS, with no name or password in it; a simulated receiver of this machine only where nothing is real. */
function requireAddress(address: string, mode: Config['mode']): void {
  const { protocol, username, password, hostname } = new URL(address);
  const plain = protocol === 'http:' && mode !== 'real' && LOOPBACK.has(hostname);
  if (username !== '' || password !== '' || (protocol !== 'https:' && !plain))
    throw new AppError('receiver.address_refused');
}

export const receiversService = (db: Database, mode: Config['mode']) => {
  const changed = async (done: boolean): Promise<void> => {
    if (!done) throw new AppError('not_found.receiver');
  };
  return {
    all: (): Promise<Receiver[]> => receiversStore(db).all(),
    add: (given: NewReceiverBody, me: Person): Promise<{ secret: string | null }> =>
      db.transaction(async (trx) => {
        requireAddress(given.address, mode);
        const { id, kind, label, address } = given;
        const signing = `whsec_${randomBytes(32).toString('base64')}`;
        const of =
          given.kind === 'webhook'
            ? { home: '', secret: signing, events: given.events }
            : {
                home: given.home.replace(/\/$/, ''),
                secret: `${given.user}:${given.password}`,
                events: STATEMENT_EVENTS,
              };
        await receiversStore(trx).insert({ id, kind, label, address, ...of, by: me.id });
        await record(trx, {
          kind: 'receiver_made',
          by: me.id,
          detail: `${kind} at ${new URL(address).host}`,
        });
        return { secret: given.kind === 'webhook' ? signing : null };
      }),
    pause: async (id: string, paused: boolean): Promise<void> =>
      changed(await receiversStore(db).pause(id, paused)),
    drop: (id: string, me: Person): Promise<void> =>
      db.transaction(async (trx) => {
        await changed(await receiversStore(trx).drop(id));
        await record(trx, { kind: 'receiver_dropped', by: me.id });
      }),
    deliveries: (id: string): Promise<Delivery[]> =>
      db.transaction(async (trx) => {
        await changed(await receiversStore(trx).isThere(id));
        return receiversStore(trx).deliveries(id);
      }),
    tryOne: (id: string): Promise<void> =>
      db.transaction(async (trx) => {
        await changed(await receiversStore(trx).isThere(id));
        await receiversStore(trx).addTry(id);
      }),
    again: async (id: string, deliveryId: string): Promise<void> =>
      changed(await receiversStore(db).again(id, deliveryId)),
  };
};
