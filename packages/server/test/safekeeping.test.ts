import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import type { Finding, Person, Safekeeping } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { anchorsInFiles } from '../src/safekeeping/heads.ts';
import { keepDailyHeads, rebuildOutcomes, safekeepingService, verifyRecords } from '../src/index.ts';
import { keepFace } from './faces-for-tests.ts';
import {
  attemptBody,
  batch,
  type Caller,
  entryOf,
  seen,
  type TestClass,
  wholePiece,
  World,
} from './harness.ts';

let world: World;
let teacher: Person;
let lead: Caller;
let api: Caller;
let classroom: TestClass;
let references: Record<number, string>;
let faceId: string;
let signed: string[];
let safeDir: string;

beforeAll(async () => {
  world = await World.make();
  safeDir = await mkdtemp(path.join(os.tmpdir(), 'clear-mark-heads-'));
  teacher = await world.person('instructor');
  lead = await world.signedIn(await world.person('lead'));
  classroom = await world.classOf([teacher], [await world.person('trainee')]);
  api = await world.signedIn(teacher);
  references = {};
  for (const nm of [1310, 1550]) {
    references[nm] = v7();
    await api.post(`/classes/${classroom.id}/references`, {
      id: references[nm],
      instrumentId: classroom.things['instrument'],
      method: 'single_cord',
      wavelengthNm: nm,
      valueDbm: '-5.0',
      setAt: new Date().toISOString(),
      showsNegative: false,
    });
  }
  signed = [];
  for (let piece = 0; piece < 4; piece++) {
    const body = attemptBody(classroom, undefined, { pieceLabel: `V-${piece}` });
    await api.post(`/classes/${classroom.id}/attempts`, body);
    if (piece === 1) {
      faceId = await keepFace(api, classroom.id, [], { attemptId: body.id });
      await look('first');
    }
    const note = entryOf(body.id, teacher, 'glasses', null, { kind: 'note', note: 'a steady hand' });
    const entries = [...wholePiece(body.id, teacher, references), note];
    await api.post('/entries', batch(entries));
    const request = { ...seen(entries.map((e) => e.id)), reason: null, asVoid: false };
    expect((await api.post(`/attempts/${body.id}/sign`, request)).status).toBe(200);
    signed.push(body.id);
  }
});
afterAll(async () => {
  await world.close();
  await rm(safeDir, { recursive: true });
});

const look = (_: string) =>
  api.post(`/classes/${classroom.id}/faces/${faceId}/gradings`, {
    id: v7(),
    traineeSaid: null,
    review: { rejected: [], kinds: [], added: [], verdict: { says: 'fail', reason: 'a crack' } },
  });

const findings = async (): Promise<Pick<Finding, 'kind' | 'classSeq'>[]> =>
  (await verifyRecords(world.db, (await anchorsInFiles(safeDir)).anchors)).findings.map(
    ({ kind, classSeq }) => ({ kind, classSeq }),
  );
/** A change by an owner of the database, behind the back of every trigger; taken back afterwards. */
async function tampered(sql: string, bindings: readonly unknown[], see: () => Promise<void>): Promise<void> {
  const before = new Map<string, Record<string, unknown>[]>();
  const tables = [
    'signed_revisions',
    'class_chains',
    'daily_heads',
    'entries',
    'entry_notes',
    'outcome_skills',
  ];
  tables.push(
    'outcome_losses',
    'reference_changes',
    'face_gradings',
    'attempts',
    'loss_references',
    'amendment_notices',
  );
  const force = async (run: (trx: typeof world.owner) => Promise<unknown>): Promise<void> => {
    await world.owner.transaction(async (trx) => {
      await trx.raw('set local session_replication_role = replica');
      await run(trx);
    });
  };
  for (const table of tables) {
    const { rows } = await world.owner.raw(`select to_jsonb(t) as row from "${table}" t`);
    before.set(
      table,
      rows.map((r: { row: Record<string, unknown> }) => r.row),
    );
  }
  await force((trx) => trx.raw(sql, bindings as never));
  try {
    await see();
  } finally {
    await force(async (trx) => {
      for (const [table, rows] of before) {
        await trx(table).del();
        await trx.raw(
          `insert into "${table}" select * from jsonb_populate_recordset(null::"${table}", ?::jsonb)`,
          [JSON.stringify(rows)],
        );
      }
    });
  }
}

describe('a check of the records', () => {
  it('finds nothing where nothing was changed', async () => {
    expect(await findings()).toEqual([]);
    expect((await verifyRecords(world.db, [])).revisions).toBe(4);
  });

  it.each<[string, string, () => readonly unknown[], Pick<Finding, 'kind' | 'classSeq'>[]]>([
    [
      'an entry that was changed',
      `update entries set value = '{"kind":"check","passed":false}' where attempt_id = ? and seq = 1`,
      () => [signed[1]],
      [{ kind: 'record_changed', classSeq: 2 }],
    ],
    [
      'another who delivered it',
      'update entries set delivered_by = author_id where attempt_id = ? and seq = 2',
      () => [signed[2]],
      [{ kind: 'record_changed', classSeq: 3 }],
    ],
    [
      'another clock',
      'update entries set clock_offset_ms = 60000 where attempt_id = ? and seq = 2',
      () => [signed[2]],
      [{ kind: 'record_changed', classSeq: 3 }],
    ],
    [
      'another start',
      `update attempts set started_at = started_at - interval '1 day' where id = ?`,
      () => [signed[0]],
      [
        { kind: 'record_changed', classSeq: 1 },
        { kind: 'derived_differs', classSeq: 1 },
      ],
    ],
    [
      'a note in other words',
      `update entry_notes set text = 'a shaky hand' where entry_id in (select id from entries where attempt_id = ?)`,
      () => [signed[3]],
      [{ kind: 'note_changed', classSeq: 4 }],
    ],
    [
      'another outcome',
      `update signed_revisions set outcome = jsonb_set(outcome, '{verdict}', '"fail"') where attempt_id = ?`,
      () => [signed[2]],
      [
        { kind: 'record_changed', classSeq: 3 },
        { kind: 'derived_differs', classSeq: 3 },
      ],
    ],
    [
      'a derived row that was turned',
      `update outcome_skills set mark = 'F' where attempt_id = ? and skill = 'whole'`,
      () => [signed[0]],
      [{ kind: 'derived_differs', classSeq: 1 }],
    ],
    [
      'a derived loss',
      'update outcome_losses set loss_db = loss_db - 0.01 where attempt_id = ?',
      () => [signed[3]],
      [{ kind: 'derived_differs', classSeq: 4 }],
    ],
    [
      'a reference of another value',
      `update loss_references set value_dbm = '-4.0' where id = ?`,
      () => [references[1310]],
      [1, 2, 3, 4].map((classSeq) => ({ kind: 'evidence_changed' as const, classSeq })),
    ],
    [
      'a grading that was turned',
      `update face_gradings set verdict = 'pass' where face_id = ?`,
      () => [faceId],
      [{ kind: 'evidence_changed', classSeq: 2 }],
    ],
    [
      'a record out of the middle',
      'delete from signed_revisions where attempt_id = ?',
      () => [signed[1]],
      [
        { kind: 'gap', classSeq: 3 },
        { kind: 'link_broken', classSeq: 3 },
        { kind: 'revision_missing', classSeq: null },
      ],
    ],
    [
      'the last record',
      'delete from signed_revisions where attempt_id = ?',
      () => [signed[3]],
      [
        { kind: 'tail_missing', classSeq: 4 },
        { kind: 'revision_missing', classSeq: null },
      ],
    ],
    [
      'the head set back',
      'update class_chains set next_seq = 4, last_hash = (select hash from signed_revisions where class_seq = 3 and class_id = class_chains.class_id) where class_id = ?',
      () => [classroom.id],
      [{ kind: 'head_behind', classSeq: 4 }],
    ],
  ])('finds %s', async (_, sql, bindings, expected) => {
    await tampered(sql, bindings(), async () => {
      expect(await findings()).toEqual(expected);
    });
    expect(await findings()).toEqual([]);
  });

  it('finds a whole tail that was deleted with its traces, by the head that was kept outside', async () => {
    expect(await keepDailyHeads(world.db, safeDir, new Date())).toMatchObject([{ classSeq: 4 }]);
    expect(await keepDailyHeads(world.db, safeDir, new Date())).toEqual([]);
    const drop = `with gone as (delete from signed_revisions where class_seq > 2 returning attempt_id),
        open as (update attempts set state = 'open' where id in (select attempt_id from gone)),
        rows as (delete from outcome_skills where attempt_id in (select attempt_id from gone)),
        heads as (delete from daily_heads)
      update class_chains set next_seq = 3,
        last_hash = (select hash from signed_revisions where class_seq = 2 and class_id = ?) where class_id = ?`;
    await tampered(drop, [classroom.id, classroom.id], async () => {
      expect((await verifyRecords(world.db, [])).findings).toEqual([]);
      expect(await findings()).toEqual([{ kind: 'anchor_lost', classSeq: 4 }]);
    });
  });

  it('does not believe a kept head that was written by another hand', async () => {
    const folder = path.join(safeDir, 'heads');
    const [name] = await readdir(folder);
    const text = await readFile(path.join(folder, name!), 'utf8');
    const forged = JSON.parse(text) as { heads: { classSeq: number }[] };
    forged.heads[0]!.classSeq = 2;
    await writeFile(path.join(folder, name!), JSON.stringify(forged));
    const { findings: found } = await safekeepingService(world.db, { safeDir }).check(null, () => new Date());
    expect(found).toMatchObject([{ kind: 'head_forged', from: name }]);
    await writeFile(path.join(folder, name!), text);
    expect((await safekeepingService(world.db, { safeDir }).check(null, () => new Date())).findings).toEqual(
      [],
    );
  });
});

describe('derived rows', () => {
  it('are made again from the records alone, the same as before', async () => {
    const read = async () => {
      const { rows } = await world.db.raw('select * from outcome_skills order by attempt_id, skill');
      return rows as unknown[];
    };
    const before = await read();
    for (const table of ['outcome_skills', 'outcome_criteria', 'outcome_losses']) await world.db(table).del();
    expect((await findings()).map((f) => f.kind)).toEqual(Array(4).fill('derived_differs'));
    expect(await rebuildOutcomes(world.db)).toBe(4);
    expect(await read()).toEqual(before);
    expect(await findings()).toEqual([]);
  });
});

describe('evidence after signing', () => {
  const notices = async (attemptId: string) =>
    ((await api.get(`/attempts/${attemptId}`)).body as { notices: { cause: string; by: string }[] }).notices;

  it('a new look at a picture of a signed piece changes nothing signed and is told once', async () => {
    expect(await notices(signed[1]!)).toEqual([]);
    expect((await look('second')).status).toBe(200);
    await look('third');
    expect(await notices(signed[1]!)).toMatchObject([{ cause: 'face_graded', by: teacher.name }]);
    expect(await findings()).toEqual([]);
  });

  it('a reference that is read again or voided keeps who, when and why, and tells every signed piece', async () => {
    const change = (body: object) => api.put(`/classes/${classroom.id}/references/${references[1550]}`, body);
    const id = v7();
    const reread = { change: 'reread', id, valueDbm: '-5.3', note: 'after lunch' };
    for (let again = 0; again < 2; again++) expect((await change(reread)).status).toBe(200);
    const after = (await change({ change: 'void', reason: 'launch_cord_taken_off' })).body as {
      changes: { by: string; at: string }[];
    };
    expect(after).toMatchObject({ rereadDbm: '-5.3', voidReason: 'launch_cord_taken_off' });
    expect(after.changes).toMatchObject([
      { change: 'reread', valueDbm: '-5.3', note: 'after lunch', by: teacher.name },
      { change: 'void', voidReason: 'launch_cord_taken_off', by: teacher.name },
    ]);
    expect((await notices(signed[0]!)).map((n) => n.cause)).toEqual(['reference_reread', 'reference_void']);
    await expect(world.owner('loss_references').update({ value_dbm: '1' })).rejects.toThrow('append only');
    expect(await findings()).toEqual([]);
  });
});

describe('the lead', () => {
  it('sees checks, heads and that the role is bound; nobody else does', async () => {
    const view = (await lead.post('/safekeeping/checks', {})).body as Safekeeping;
    expect(view).toMatchObject({ roleIsBound: true, headsInFiles: false, lastGoodBackup: null });
    expect(view.checks[0]).toMatchObject({ revisions: 4, findings: [] });
    expect(view.heads).toMatchObject([{ classSeq: 4 }]);
    expect((await api.get('/safekeeping')).problem.code).toBe('auth.role');
  });
});
