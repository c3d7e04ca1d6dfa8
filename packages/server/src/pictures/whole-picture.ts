import { AppError } from '../errors/app-error.ts';
import type { Database } from '../database/database.ts';
import type { PictureStorage } from './object-storage.ts';
import { picturesStore } from './pictures.store.ts';

/** The bytes of a picture, wherever they lie. Errors: `picture.store_away`, also where no store is set and it is in one. */
export async function wholePicture(
  storage: PictureStorage | null,
  { sha256, bytes }: { readonly sha256: string; readonly bytes: Buffer | null },
): Promise<Buffer> {
  if (bytes) return bytes;
  if (!storage) throw new AppError('picture.store_away');
  return storage.get(sha256);
}

/** The same of one that is known by its digest; null where there is none such. */
export async function pictureBytes(
  db: Database,
  storage: PictureStorage | null,
  sha256: string,
): Promise<Buffer | null> {
  const row = await picturesStore(db).byDigest(sha256);
  return row ? wholePicture(storage, row) : null;
}
