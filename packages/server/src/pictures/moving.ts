import { pictureHead } from '@clear-mark/core';
import type { Logger } from 'pino';
import type { Database } from '../database/database.ts';
import type { PictureStorage } from './object-storage.ts';
import { picturesStore } from './pictures.store.ts';

const LOOK_EVERY_MS = 30_000;
/** One after the other, so that a store that is away is met once a look. */
const MOST_A_LOOK = 200;

/**
 * Brings pictures from the database into the store, a minute after they came, and takes out of it what was erased or given up. A
 * picture is always safe in one of the two: it leaves the database in the transaction that finds it in the store. Where the store
 * is away they stay, and are moved later.
 */
export function startMovingPictures(db: Database, storage: PictureStorage, log: Logger): () => Promise<void> {
  let running: Promise<void> | null = null;
  const look = (): void => {
    running ??= movePictures(db, storage)
      .then((moved) => void (moved > 0 && log.info({ moved }, 'pictures moved into the store')))
      .catch((error: unknown) => log.warn({ err: error }, 'pictures stay in the database'))
      .finally(() => (running = null));
  };
  const timer = setInterval(look, LOOK_EVERY_MS);
  timer.unref();
  return async () => {
    clearInterval(timer);
    await running;
  };
}

/** Gives how many were moved. Errors: those of the store; what was moved before stays moved. */
export async function movePictures(db: Database, storage: PictureStorage): Promise<number> {
  let moved = 0;
  while (moved < MOST_A_LOOK && (await db.transaction((trx) => moveOne(trx, storage)))) moved += 1;
  for (let n = 0; n < MOST_A_LOOK && (await db.transaction((trx) => removeOne(trx, storage))); n++);
  return moved;
}

/** All of them back into the database, for leaving a store. Gives how many. Errors: those of the store. */
export async function bringPicturesBack(db: Database, storage: PictureStorage): Promise<number> {
  let brought = 0;
  while (await db.transaction((trx) => bringOne(trx, storage))) brought += 1;
  while (await db.transaction((trx) => removeOne(trx, storage)));
  return brought;
}

async function moveOne(trx: Database, storage: PictureStorage): Promise<boolean> {
  const store = picturesStore(trx);
  const found = await store.nextToMove();
  if (!found) return false;
  await storage.put(found.sha256, found.bytes, found.mediaType);
  const head = pictureHead(found.bytes);
  const size = head.kind === 'refused' ? { width: 0, height: 0 } : head;
  await store.markStored(found.sha256, size.width, size.height);
  return true;
}

async function bringOne(trx: Database, storage: PictureStorage): Promise<boolean> {
  const store = picturesStore(trx);
  const sha256 = await store.nextStored();
  if (sha256 === null) return false;
  await store.markHere(sha256, await storage.get(sha256));
  return true;
}

async function removeOne(trx: Database, storage: PictureStorage): Promise<boolean> {
  const store = picturesStore(trx);
  const found = await store.nextRemoval();
  if (!found) return false;
  if (!found.wantedAgain) await storage.remove(found.sha256);
  await store.dropRemoval(found.sha256);
  return true;
}
