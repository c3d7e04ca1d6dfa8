import type { Skill, Verdict } from '@clear-mark/core';
import type { AuditKind, CertificateState, Role } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { rowsOf, type Sql, sql } from '../database/sql.ts';
import { certificatesStore } from '../certificates/index.ts';

/** All that is held about a person, as it lies in the tables; other people stand in it by their names. */
export interface Held {
  readonly account: {
    readonly id: string;
    readonly name: string;
    readonly login: string;
    readonly role: Role;
    readonly createdAt: string;
    readonly lastSignIn: string | null;
    readonly closedAt: string | null;
    readonly secondFactor: boolean;
    readonly sessions: number;
  };
  readonly classes: readonly {
    readonly className: string;
    readonly place: string;
    readonly role: string;
    readonly group: string;
    readonly joinedAt: string;
    readonly leftAt: string | null;
  }[];
  readonly pieces: readonly HeldPiece[];
  readonly lateEntries: readonly object[];
  readonly signOffs: readonly {
    skill: Skill;
    className: string;
    lapsesOn: string;
    by: string;
    note: string;
  }[];
  readonly certificates: readonly {
    code: string;
    className: string;
    validUntil: string;
    state: CertificateState;
  }[];
  /** Days that are planned with the person, and how many pieces on each. */
  readonly days: readonly { className: string; day: string; pieces: number }[];
  readonly plan: readonly { skill: Skill; className: string; openedAt: string; closedAt: string | null }[];
  readonly pictures: readonly HeldPicture[];
  readonly calls: readonly {
    series: string;
    className: string;
    startedAt: string;
    answers: readonly object[];
  }[];
  /** Pictures that values of sheets were measured in. */
  readonly measured: readonly HeldMeasured[];
  readonly tracesRead: readonly {
    series: string;
    className: string;
    startedAt: string;
    answers: readonly object[];
  }[];
  /** Traces of an OTDR that are kept with the person's pieces. */
  readonly traces: readonly {
    label: string;
    takenAt: string;
    takenBy: string;
    pieceLabel: string;
    sha256: string;
  }[];
  /** Acts of the person, and acts on the account. */
  readonly trail: readonly {
    at: string;
    kind: AuditKind;
    by: string | null;
    person: string | null;
    detail: string;
  }[];
  /** What the person did to the records of others: counted, since it is held about those. */
  readonly others: { readonly entries: number; readonly signed: number; readonly graded: number };
}
export interface HeldPiece {
  readonly id: string;
  readonly className: string;
  readonly label: string;
  readonly method: string;
  readonly methodVersion: number;
  readonly startedAt: string;
  readonly state: string;
  readonly entries: readonly { readonly note: string | null }[];
  readonly records: readonly {
    readonly revision: number;
    readonly kind: string;
    readonly signedBy: string;
    readonly signedAt: string;
    readonly verdict: Verdict;
    readonly reason: string | null;
    readonly hash: string;
  }[];
}
export interface HeldMeasured {
  readonly id: string;
  readonly criterionId: string;
  /** What it is called on the sheet. */
  readonly criterion: string;
  readonly sha256: string;
  readonly mediaType: string;
  readonly value: string;
  readonly expanded: string;
  readonly takenAt: string;
  readonly takenBy: string;
  readonly pieceLabel: string;
}
export interface HeldPicture {
  readonly id: string;
  readonly label: string;
  readonly sha256: string;
  readonly mediaType: string;
  readonly takenAt: string;
  readonly takenBy: string;
  readonly pieceLabel: string | null;
  readonly engineVerdict: string | null;
  readonly gradings: readonly object[];
}

/** Instants as JSON has them: UTC, RFC 3339. */
const ACCOUNT = (id: string): Sql => sql`
  select p.id, p.name, p.login, p.role, p.created_at as "createdAt", p.last_sign_in as "lastSignIn",
         p.disabled_at as "closedAt",
         exists (select 1 from second_factors f where f.person_id = p.id and f.confirmed_at is not null) as "secondFactor",
         (select count(*) from session where sess ->> 'personId' = ${id} and expire > now())::int as sessions
    from people p where p.id = ${id}`;

const CLASSES = (id: string): Sql => sql`
  select c.name as "className", c.place, m.role, m.group_name as "group", m.joined_at as "joinedAt", m.left_at as "leftAt"
    from class_members m join classes c on c.id = m.class_id where m.person_id = ${id} order by m.joined_at, c.id`;

const PIECES = (id: string): Sql => sql`
  select a.id, c.name as "className", i.label, v.title as method, v.version as "methodVersion",
         a.started_at as "startedAt", a.state,
         (select coalesce(json_agg(json_build_object('seq', e.seq, 'kind', e.kind, 'criterion', e.criterion_id,
             'part', e.part, 'value', e.value, 'voidReason', e.void_reason, 'by', w.name, 'capacity', e.capacity,
             'source', e.source, 'at', e.at, 'note', n.text) order by e.seq), '[]')
            from entries e join people w on w.id = e.author_id left join entry_notes n on n.entry_id = e.id
           where e.attempt_id = a.id) as entries,
         (select coalesce(json_agg(json_build_object('revision', r.revision, 'kind', r.kind, 'signedBy', w.name,
             'signedAt', r.signed_at, 'verdict', r.outcome ->> 'verdict', 'reason', r.reason, 'hash', r.hash)
             order by r.revision), '[]')
            from signed_revisions r join people w on w.id = r.signed_by where r.attempt_id = a.id) as records
    from attempts a join classes c on c.id = a.class_id join pieces i on i.id = a.piece_id
    join method_versions v on v.id = a.method_version_id
   where a.trainee_id = ${id} order by a.started_at, a.id`;

const LATE = (id: string): Sql => sql`
  select u.attempt_id as "pieceId", w.name as by, u.received_at as "receivedAt", u.entry,
         (select d.taken from late_decisions d where d.entry_id = u.id) as taken
    from unmerged_entries u join attempts a on a.id = u.attempt_id join people w on w.id = u.author_id
   where a.trainee_id = ${id} order by u.received_at, u.id`;

const SIGN_OFFS = (id: string): Sql => sql`
  select s.skill, c.name as "className", s.rule, s.evidence, s.lapses_on::text as "lapsesOn", w.name as by, s.at, s.note
    from sign_offs s join classes c on c.id = s.class_id join people w on w.id = s.by
   where s.trainee_id = ${id} order by s.at, s.id`;

const DAYS = (id: string): Sql => sql`
  select c.name as "className", d.day, count(*)::int as pieces
    from class_days d join classes c on c.id = d.class_id, jsonb_array_elements(d.content -> 'pieces') p
   where p ->> 'traineeId' = ${id} group by c.name, d.day order by d.day, c.name`;
const PLAN = (id: string): Sql => sql`
  select i.skill, c.name as "className", i.opened_at as "openedAt", i.closed_at as "closedAt", i.pieces, i.minutes, i.drill
    from plan_items i join classes c on c.id = i.class_id where i.trainee_id = ${id} order by i.opened_at, i.id`;

const PICTURES = (id: string): Sql => sql`
  select f.id, f.label, f.sha256, q.media_type as "mediaType", f.taken_at as "takenAt", w.name as "takenBy",
         i.label as "pieceLabel", f.engine_verdict as "engineVerdict",
         (select coalesce(json_agg(json_build_object('by', b.name, 'at', g.at, 'verdict', g.verdict,
             'traineeSaid', g.trainee_said, 'review', g.review) order by g.seq), '[]')
            from face_gradings g join people b on b.id = g.by where g.face_id = f.id) as gradings
    from faces f join pictures q on q.sha256 = f.sha256 join people w on w.id = f.taken_by
    left join attempts a on a.id = f.attempt_id left join pieces i on i.id = a.piece_id
   where coalesce(f.trainee_id, a.trainee_id) = ${id} order by f.taken_at, f.id`;

const MEASURED = (id: string): Sql => sql`
  select m.id, m.criterion_id as "criterionId",
         coalesce((select c ->> 'label' from jsonb_path_query(v.sheet, '$.steps[*].criteria[*]') c
                    where c ->> 'id' = m.criterion_id limit 1), m.criterion_id) as criterion,
         m.sha256, q.media_type as "mediaType", m.value_text as value, m.expanded,
         m.taken_at as "takenAt", w.name as "takenBy", i.label as "pieceLabel"
    from measured_pictures m join pictures q on q.sha256 = m.sha256 join attempts a on a.id = m.attempt_id
    join pieces i on i.id = a.piece_id join people w on w.id = m.taken_by
    join method_versions v on v.id = a.method_version_id
   where a.trainee_id = ${id} order by m.taken_at, m.id`;

const CALLS = (id: string): Sql => sql`
  select s.label as series, c.name as "className", r.started_at as "startedAt", r.finished_at as "finishedAt",
         (select coalesce(json_agg(json_build_object('position', n.position, 'said', n.said, 'ms', n.ms)
                                   order by n.position), '[]') from call_answers n where n.run_id = r.id) as answers
    from call_runs r join call_series s on s.id = r.series_id join classes c on c.id = s.class_id
   where r.person_id = ${id} order by r.started_at, r.id`;

const TRACES_READ = (id: string): Sql => sql`
  select s.label as series, c.name as "className", r.started_at as "startedAt", r.finished_at as "finishedAt",
         (select coalesce(json_agg(json_build_object('position', n.position, 'marks', n.marks, 'said', n.said, 'ms', n.ms)
                                   order by n.position), '[]') from trace_answers n where n.trace_run_id = r.id) as answers
    from trace_runs r join trace_series s on s.id = r.trace_series_id join classes c on c.id = s.class_id
   where r.person_id = ${id} order by r.started_at, r.id`;

const TRACES = (id: string): Sql => sql`
  select t.label, t.taken_at as "takenAt", w.name as "takenBy", i.label as "pieceLabel", t.sha256
    from traces t join attempts a on a.id = t.attempt_id join pieces i on i.id = a.piece_id
    join people w on w.id = t.taken_by
   where a.trainee_id = ${id} order by t.taken_at, t.id`;

const TRAIL = (id: string): Sql => sql`
  select e.at, e.kind, b.name as by, p.name as person, c.name as "className", e.detail
    from audit_events e left join people b on b.id = e.by_id left join people p on p.id = e.person_id
    left join classes c on c.id = e.class_id
   where e.by_id = ${id} or e.person_id = ${id} order by e.seq`;

const OTHERS = (id: string): Sql => sql`
  select (select count(*) from entries e join attempts a on a.id = e.attempt_id
           where e.author_id = ${id} and a.trainee_id <> ${id})::int as entries,
         (select count(*) from signed_revisions where signed_by = ${id})::int as signed,
         (select count(*) from face_gradings where by = ${id})::int as graded`;

export const heldStore = (db: Database) => ({
  /** Null: nobody has this id. */
  held: async (id: string, now: Date): Promise<Held | null> => {
    const [account] = await rowsOf<Held['account']>(db, ACCOUNT(id));
    if (!account) return null;
    const [others] = await rowsOf<Held['others']>(db, OTHERS(id));
    return {
      account,
      classes: await rowsOf(db, CLASSES(id)),
      pieces: await rowsOf(db, PIECES(id)),
      lateEntries: await rowsOf(db, LATE(id)),
      signOffs: await rowsOf(db, SIGN_OFFS(id)),
      certificates: await certificatesStore(db).ofPerson(id, now),
      plan: await rowsOf(db, PLAN(id)),
      days: await rowsOf(db, DAYS(id)),
      pictures: await rowsOf(db, PICTURES(id)),
      measured: await rowsOf(db, MEASURED(id)),
      calls: await rowsOf(db, CALLS(id)),
      tracesRead: await rowsOf(db, TRACES_READ(id)),
      traces: await rowsOf(db, TRACES(id)),
      trail: await rowsOf(db, TRAIL(id)),
      others: others!,
    };
  },
});
