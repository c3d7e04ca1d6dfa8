import type { Person } from '@clear-mark/contract';
import { archivePictureOf } from '@clear-mark/contract/archive';
import type { Response } from 'express';
import yazl from 'yazl';
import { record } from '../audit/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { pictureBytes, type PictureStorage } from '../pictures/index.ts';
import { heldPage } from './held-page.ts';
import { heldStore } from './held.store.ts';

const FORMAT = 'clear-mark person 1';

/**
 * Sends all that is held about a person: `person.json` for programs, `person.html` to read, and the pictures, each under the
 * digest that the JSON names. Error: `not_found.person`.
 */
export async function sendHeld(
  { db, storage }: { readonly db: Database; readonly storage: PictureStorage | null },
  id: string,
  me: Person,
  now: Date,
  response: Response,
): Promise<void> {
  // As of one instant.
  const held = await db.transaction(
    async (trx) => {
      const found = await heldStore(trx).held(id, now);
      if (!found) throw new AppError('not_found.person');
      const detail = 'all that is held about a person';
      await record(trx, { kind: 'export', by: me.id, person: id, detail });
      return found;
    },
    { isolationLevel: 'repeatable read' },
  );
  const withFile = <T extends { readonly sha256: string; readonly mediaType: string }>(p: T) => ({
    ...p,
    file: archivePictureOf(p.sha256, p.mediaType),
  });
  const withFiles = {
    ...held,
    pictures: held.pictures.map(withFile),
    measured: held.measured.map(withFile),
  };
  // One that was measured twice lies there once.
  const files = new Map([...withFiles.pictures, ...withFiles.measured].map((p) => [p.sha256, p.file]));
  const zip = new yazl.ZipFile();
  const json = JSON.stringify({ format: FORMAT, madeAt: now.toISOString(), ...withFiles }, null, 2);
  zip.addBuffer(Buffer.from(`${json}\n`), 'person.json', { mtime: now });
  zip.addBuffer(Buffer.from(heldPage(withFiles, now)), 'person.html', { mtime: now });
  response.set('Content-Type', 'application/zip');
  response.set('Content-Disposition', 'attachment; filename="held-about-a-person.zip"');
  zip.outputStream.pipe(response);
  try {
    for (const [sha256, file] of files) {
      const bytes = await pictureBytes(db, storage, sha256);
      // A picture is packed already: pressing it again would only take time.
      if (bytes) zip.addBuffer(bytes, file, { mtime: now, compress: false });
    }
    zip.end();
  } catch (error) {
    response.destroy(error as Error);
  }
}
