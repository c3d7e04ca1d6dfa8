import type { Database } from '../database/database.ts';
import { rowsOf, sql } from '../database/sql.ts';

export interface PictureHere {
  readonly sha256: string;
  readonly mediaType: string;
  readonly bytes: Buffer;
}

/** Where the bytes of pictures lie. Rows are held until the end of the transaction, and those that others hold are passed over. */
export const picturesStore = (trx: Database) => ({
  byDigest: async (sha256: string): Promise<{ sha256: string; bytes: Buffer | null } | null> =>
    (await trx('pictures').select(['sha256', 'bytes']).where({ sha256 }).first()) ?? null,

  /** The oldest that lies in the database since a minute at least; grey ones of erased persons stay. */
  nextToMove: async (): Promise<PictureHere | null> =>
    (
      await rowsOf<PictureHere>(
        trx,
        sql`select sha256, media_type as "mediaType", bytes from pictures
             where stored_at is null and erased_at is null and received_at < now() - interval '1 minute'
             order by received_at limit 1 for update skip locked`,
      )
    )[0] ?? null,
  markStored: async (sha256: string, width: number, height: number): Promise<void> => {
    await trx('picture_removals').where({ sha256 }).delete();
    await trx('pictures').where({ sha256 }).update({ bytes: null, stored_at: trx.fn.now(), width, height });
  },

  nextStored: async (): Promise<string | null> =>
    (
      await rowsOf<{ sha256: string }>(
        trx,
        sql`select sha256 from pictures where stored_at is not null order by stored_at limit 1 for update skip locked`,
      )
    )[0]?.sha256 ?? null,
  markHere: async (sha256: string, bytes: Buffer): Promise<void> => {
    await trx('pictures').where({ sha256 }).update({ bytes, stored_at: null });
  },

  /** One that is to go from the store, with whether it was put there again meanwhile. */
  nextRemoval: async (): Promise<{ sha256: string; wantedAgain: boolean } | null> => {
    const [found] = await rowsOf<{ sha256: string }>(
      trx,
      sql`select sha256 from picture_removals order by at limit 1 for update skip locked`,
    );
    if (!found) return null;
    const [row] = await rowsOf<{ stored: boolean }>(
      trx,
      sql`select stored_at is not null as stored from pictures where sha256 = ${found.sha256} for update`,
    );
    return { sha256: found.sha256, wantedAgain: row?.stored ?? false };
  },
  dropRemoval: async (sha256: string): Promise<void> => {
    await trx('picture_removals').where({ sha256 }).delete();
  },
});
