import { DEFAULT_POLICY, type Policy, type PracticeChoices } from '@clear-mark/core';
import type { ClassSummary, MethodInUse, Person, Thing } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';

const CLASS = ['id', 'name', 'place', 'time_zone as timeZone', 'starts_on as startsOn', 'ends_on as endsOn'];
const PERSON = ['people.id', 'people.name', 'people.login', 'people.role'];
const THING = ['id', 'kind', 'label'];

export const classesStore = (db: Database) => ({
  all: (): Promise<ClassSummary[]> => db('classes').select(CLASS).orderBy('starts_on', 'desc').orderBy('id'),

  ofMember: (personId: string): Promise<ClassSummary[]> =>
    db('classes')
      .select(CLASS)
      .whereIn(
        'id',
        db('class_members').select('class_id').where({ person_id: personId }).whereNull('left_at'),
      )
      .orderBy('starts_on', 'desc')
      .orderBy('id'),

  byId: async (id: string): Promise<(ClassSummary & { policy: Policy; schools: PracticeChoices }) | null> => {
    const found = await db('classes')
      .select([...CLASS, 'policy', 'schools'])
      .where({ id })
      .first();
    // A policy that was kept before a rule was there goes by the default of that rule.
    return found ? { ...found, policy: { ...DEFAULT_POLICY, ...found.policy } } : null;
  },

  /** The instant at which the first day of a class began, in its zone. */
  beganAt: async (id: string): Promise<Date> => {
    const { rows } = await db.raw(
      'select starts_on::timestamp at time zone time_zone as began from classes where id = ?',
      [id],
    );
    return new Date(rows[0].began as string);
  },

  insert: async (summary: ClassSummary, policy: Policy): Promise<void> => {
    await db('classes').insert({
      id: summary.id,
      name: summary.name,
      place: summary.place,
      time_zone: summary.timeZone,
      starts_on: summary.startsOn,
      ends_on: summary.endsOn,
      policy: JSON.stringify(policy),
    });
    await db('class_chains').insert({ class_id: summary.id });
  },

  setPolicy: async (id: string, policy: Policy): Promise<void> => {
    await db('classes')
      .where({ id })
      .update({ policy: JSON.stringify(policy) });
  },

  /** One choice of practice; the others stay. */
  setPractice: async (id: string, practice: string, option: string): Promise<void> => {
    await db('classes')
      .where({ id })
      .update({ schools: db.raw('schools || jsonb_build_object(?::text, ?::text)', [practice, option]) });
  },

  knowsTimeZone: async (timeZone: string): Promise<boolean> =>
    (await db.raw('select 1 from pg_timezone_names where name = ?', [timeZone])).rows.length > 0,

  memberRole: async (classId: string, personId: string): Promise<'instructor' | 'trainee' | null> =>
    (
      await db('class_members')
        .select('role')
        .where({ class_id: classId, person_id: personId })
        .whereNull('left_at')
        .first<{ role: 'instructor' | 'trainee' } | undefined>()
    )?.role ?? null,

  members: (classId: string, role: 'instructor' | 'trainee'): Promise<Person[]> =>
    db('class_members')
      .join('people', 'people.id', 'class_members.person_id')
      .select(PERSON)
      .where({ class_id: classId, 'class_members.role': role })
      .whereNull('left_at')
      .orderBy('people.name')
      .orderBy('people.id'),

  trainees: (classId: string): Promise<(Person & { group: string })[]> =>
    db('class_members')
      .join('people', 'people.id', 'class_members.person_id')
      .select([...PERSON, 'class_members.group_name as group'])
      .where({ class_id: classId, 'class_members.role': 'trainee' })
      .whereNull('left_at')
      .orderBy('people.name')
      .orderBy('people.id'),

  /** False when that person is no trainee of the class. */
  setGroup: async (classId: string, personId: string, group: string): Promise<boolean> =>
    (await db('class_members')
      .where({ class_id: classId, person_id: personId, role: 'trainee' })
      .update({ group_name: group })) === 1,

  addMember: async (classId: string, personId: string, role: 'instructor' | 'trainee'): Promise<void> => {
    await db('class_members')
      .insert({ class_id: classId, person_id: personId, role })
      .onConflict(['class_id', 'person_id'])
      .merge({ role, left_at: null });
  },
  /** The person is in the class no longer; the row stays, since what was scored names it. */
  leave: async (classId: string, personId: string): Promise<void> => {
    await db('class_members')
      .where({ class_id: classId, person_id: personId })
      .update({ left_at: db.fn.now() });
  },
  /** Labels of the pieces of this trainee that are open. */
  openPieces: (classId: string, traineeId: string): Promise<string[]> =>
    db('attempts as a')
      .join('pieces as p', 'p.id', 'a.piece_id')
      .where({ 'a.class_id': classId, 'a.trainee_id': traineeId, 'a.state': 'open' })
      .orderBy('a.started_at')
      .pluck('p.label'),

  things: async (classId: string): Promise<Thing[]> =>
    db('things')
      .select([...THING, db.raw('retired_at is not null as retired')])
      .where({ class_id: classId })
      .orderBy('kind')
      .orderByRaw('length(label), label'),

  /** The stock items of an earlier class and what it said of its course. */
  copyCourse: async (fromId: string, toId: string): Promise<void> => {
    await db.raw(
      `insert into stock_items (class_id, id, label, kind, unit, pack, opened_days)
         select ?, id, label, kind, unit, pack, opened_days from stock_items where class_id = ?`,
      [toId, fromId],
    );
    await db.raw(
      `insert into course_methods (class_id, method_id, pieces, work)
         select ?, method_id, pieces, work from course_methods where class_id = ?`,
      [toId, fromId],
    );
  },

  insertThing: async (classId: string, thing: Pick<Thing, 'id' | 'kind' | 'label'>): Promise<void> => {
    await db('things').insert({ ...thing, class_id: classId });
  },

  retireThing: async (classId: string, thingId: string, retired: boolean): Promise<Thing | null> => {
    const rows: Thing[] = await db('things')
      .where({ class_id: classId, id: thingId })
      .update({ retired_at: retired ? db.fn.now() : null })
      .returning([...THING, db.raw('retired_at is not null as retired')] as string[]);
    return rows[0] ?? null;
  },

  /** Every version that is not retired, and whether this class uses it; retired ones while it does. */
  methods: async (classId: string): Promise<MethodInUse[]> =>
    db('method_versions as v')
      .leftJoin('class_methods as m', (join) =>
        join.on('m.method_version_id', 'v.id').andOnVal('m.class_id', classId),
      )
      .select([
        'v.id as versionId',
        'v.method_id as methodId',
        'v.version',
        'v.title',
        'v.state',
        db.raw('coalesce(m.in_use, false) as "inUse"'),
      ])
      .whereRaw("(v.state <> 'retired' or m.in_use)")
      .orderByRaw('coalesce(m.in_use, false) desc, v.title'),

  useMethod: async (classId: string, versionId: string, inUse: boolean): Promise<void> => {
    await db('class_methods')
      .insert({ class_id: classId, method_version_id: versionId, in_use: inUse })
      .onConflict(['class_id', 'method_version_id'])
      .merge();
  },
});
