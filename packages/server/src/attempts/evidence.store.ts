import type { Database } from '../database/database.ts';

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
/** What an outcome rests on beside its entries. */
export interface Evidence {
  readonly references: readonly ReferenceUsed[];
  readonly faces: readonly FaceUsed[];
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
    return all;
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
