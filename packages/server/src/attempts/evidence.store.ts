import { digestOf } from '../chain/index.ts';
import type { Database } from '../database/database.ts';
import { rowsOf, sql } from '../database/sql.ts';

export interface ReferenceUsed {
  readonly id: string;
  readonly method: string;
  readonly wavelengthNm: number;
  readonly valueDbm: string;
  readonly showsNegative: boolean;
  readonly setAt: string;
  readonly setBy: string;
  /** Only where they are known, so that records signed before they were kept read the same. */
  readonly leg?: number;
  readonly light?: string;
  readonly changes: readonly {
    readonly id: string;
    readonly change: string;
    readonly valueDbm: string | null;
    readonly voidReason: string | null;
    readonly at: string;
    readonly by: string;
  }[];
}
export interface FaceUsed {
  readonly id: string;
  readonly sha256: string;
  readonly engineVerdict: string | null;
  /** The newest grading as it was then; null where nobody had looked. */
  readonly grading: { readonly id: string; readonly verdict: string | null } | null;
}
/** A picture that a value was measured in; what was found in it is told by the digest of it. */
export interface PictureUsed {
  readonly id: string;
  readonly sha256: string;
  readonly criterionId: string;
  readonly value: string;
  readonly expanded: string;
  readonly foundDigest: string;
}
/** What an outcome rests on beside its entries. */
export interface Evidence {
  readonly references: readonly ReferenceUsed[];
  readonly faces: readonly FaceUsed[];
  /** Only where there are any, so that records signed before they were kept read the same. */
  readonly pictures?: readonly PictureUsed[];
}

interface OfAttempt {
  readonly attemptId: string;
}

const iso = (text: string): string => new Date(text).toISOString();

export const evidenceStore = (db: Database) => ({
  /** Of each attempt as it was at an instant: later gradings and changes are left out. */
  asOf: async (attemptIds: readonly string[], at: string): Promise<Map<string, Evidence>> => {
    const references: (Omit<ReferenceUsed, 'leg' | 'light'> &
      OfAttempt & { leg: number | null; light: string | null })[] = (
      await db.raw(
        `select u.attempt_id as "attemptId", r.id, r.method, r.wavelength_nm as "wavelengthNm",
                r.value_dbm as "valueDbm", r.shows_negative as "showsNegative", r.set_at as "setAt", r.set_by as "setBy",
                r.leg, r.light,
                coalesce((select jsonb_agg(jsonb_build_object('id', c.id, 'change', c.change, 'valueDbm', c.value_dbm,
                    'voidReason', c.void_reason, 'at', c.at, 'by', c.by) order by c.seq)
                  from reference_changes c where c.reference_id = r.id and c.at <= ?), '[]') as changes
           from (select distinct attempt_id, reference_id from readings where attempt_id = any(?::uuid[])) u
           join loss_references r on r.id = u.reference_id order by r.id`,
        [at, attemptIds as never],
      )
    ).rows;
    const faces: (FaceUsed & OfAttempt)[] = (
      await db.raw(
        `select f.attempt_id as "attemptId", f.id, f.sha256, f.engine_verdict as "engineVerdict",
                (select jsonb_build_object('id', g.id, 'verdict', g.verdict) from face_gradings g
                  where g.face_id = f.id and g.at <= ? order by g.seq desc limit 1) as grading
           from faces f where f.attempt_id = any(?::uuid[]) order by f.id`,
        [at, attemptIds as never],
      )
    ).rows;
    const all = new Map(
      attemptIds.map((id) => [id, { references: [] as ReferenceUsed[], faces: [] as FaceUsed[] }]),
    );
    for (const { attemptId, leg, light, ...r } of references) {
      all.get(attemptId)!.references.push({
        ...r,
        ...(leg === null ? {} : { leg }),
        ...(light === null ? {} : { light }),
        changes: r.changes.map((c) => ({ ...c, at: iso(c.at) })),
      });
    }
    for (const { attemptId, ...face } of faces) all.get(attemptId)!.faces.push(face);
    const pictures = await picturesOf(db, attemptIds);
    return new Map(
      [...all].map(([id, evidence]) => {
        const own = pictures.get(id);
        return [id, own ? { ...evidence, pictures: own } : evidence];
      }),
    );
  },

  /** Verdicts of gradings by their ids. */
  gradings: async (ids: readonly string[]): Promise<Map<string, string | null>> => {
    const rows: { id: string; verdict: string | null }[] =
      ids.length === 0
        ? []
        : await db('face_gradings')
            .select(['id', 'verdict'])
            .whereIn('id', ids as string[]);
    return new Map(rows.map((r) => [r.id, r.verdict]));
  },
});

/** Pictures that values of attempts were measured in, in the order of their ids. */
async function picturesOf(db: Database, attemptIds: readonly string[]): Promise<Map<string, PictureUsed[]>> {
  const rows = await rowsOf<
    Omit<PictureUsed, 'foundDigest'> & OfAttempt & { readonly reading: unknown; readonly dragged: unknown }
  >(
    db,
    sql`select attempt_id as "attemptId", id, sha256, criterion_id as "criterionId", value_text as value, expanded, reading, dragged
          from measured_pictures where attempt_id = any(${attemptIds as string[]}::uuid[]) order by id`,
  );
  const found = new Map<string, PictureUsed[]>();
  for (const { attemptId, reading, dragged, ...picture } of rows) {
    const list = found.get(attemptId) ?? [];
    list.push({ ...picture, foundDigest: digestOf({ reading, dragged }) });
    found.set(attemptId, list);
  }
  return found;
}
