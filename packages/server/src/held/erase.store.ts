import type { Erased } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { rowsOf, sql } from '../database/sql.ts';

export interface PictureOf {
  readonly sha256: string;
  readonly width: number;
  readonly height: number;
  /** It is a picture of somebody else's work as well. */
  readonly shared: boolean;
}

export const eraseStore = (db: Database) => ({
  outlook: async (id: string) => {
    const [row] = await rowsOf<{ pieces: number; notes: number; reasons: number; gradings: number }>(
      db,
      sql`with mine as (select id from attempts where trainee_id = ${id})
          select (select count(*) from mine)::int as pieces,
                 ((select count(*) from entry_notes n join entries e on e.id = n.entry_id
                    where e.attempt_id in (select id from mine))
                  + (select count(*) from unmerged_entries
                      where attempt_id in (select id from mine) and coalesce(entry ->> 'note', '') <> ''))::int as notes,
                 ((select count(*) from signed_revisions
                    where attempt_id in (select id from mine) and reason is not null)
                  + (select count(*) from sign_offs where trainee_id = ${id} and note <> '')
                  + (select count(*) from certificate_withdrawals w join certificates k on k.id = w.certificate_id
                      where k.trainee_id = ${id}))::int as reasons,
                 (select count(*) from face_gradings g join faces f on f.id = g.face_id
                   where (f.trainee_id = ${id} or f.attempt_id in (select id from mine))
                     and coalesce(g.review #>> '{verdict,reason}', '') <> '')::int as gradings`,
    );
    return row!;
  },
  openPieces: async (id: string): Promise<string[]> =>
    db('attempts as a')
      .join('pieces as p', 'p.id', 'a.piece_id')
      .where({ 'a.trainee_id': id, 'a.state': 'open' })
      .orderBy('a.started_at')
      .pluck('p.label'),

  /** The pictures of a person's work, each once. */
  pictures: (id: string): Promise<PictureOf[]> =>
    rowsOf(
      db,
      sql`with of_person as (
            select f.sha256, f.width, f.height, coalesce(f.trainee_id, a.trainee_id) = ${id} as mine
              from faces f left join attempts a on a.id = f.attempt_id
            union all
            select m.sha256, m.width, m.height, a.trainee_id = ${id}
              from measured_pictures m join attempts a on a.id = m.attempt_id)
          select sha256, min(width) as width, min(height) as height, not bool_and(coalesce(mine, false)) as shared
            from of_person group by sha256 having bool_or(mine) order by sha256`,
    ),
  replacePicture: async (sha256: string, png: Buffer): Promise<void> => {
    await db('pictures')
      .where({ sha256 })
      .update({ bytes: png, media_type: 'image/png', erased_at: db.fn.now(), stored_at: null });
  },

  /** Texts on the person's work and standing; `names` are patterns of what a label may hold of the name. */
  eraseTexts: async (
    id: string,
    token: string,
    names: readonly string[],
  ): Promise<Omit<Erased, 'token' | 'pictures' | 'sharedPictures'>> => {
    const [row] = await rowsOf<{ found: Omit<Erased, 'token' | 'pictures' | 'sharedPictures'> }>(
      db,
      sql`select erase_texts_of(${id}, ${token}, ${names}::text[]) as found`,
    );
    return row!.found;
  },
  /** The account itself: nobody signs in by it again, and what devices keep for it opens no more. */
  eraseAccount: async (id: string, token: string, login: string): Promise<void> => {
    await db('second_factors').where({ person_id: id }).delete();
    await db('class_members').where({ person_id: id }).whereNull('left_at').update({ left_at: db.fn.now() });
    await rowsOf(
      db,
      sql`update people set name = ${token}, login = ${login}, password_hash = null, pin_hash = null, last_sign_in = null,
                 device_key = encode(sha256((gen_random_uuid()::text || gen_random_uuid()::text)::bytea), 'hex'),
                 disabled_at = coalesce(disabled_at, now()), erased_at = now()
           where id = ${id}`,
    );
  },
});
