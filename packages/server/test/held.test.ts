import type { AccountState, Erased, ErasureOutlook, Person } from '@clear-mark/contract';
import { NO_REVIEW, pictureHead } from '@clear-mark/core';
import { v7 } from 'uuid';
import { beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { verifyRecords } from '../src/index.ts';
import { keepFace } from './faces-for-tests.ts';
import { attemptBody, type Caller, PASSWORD, wholePiece } from './harness.ts';
import { openAttempt } from './open-attempt.ts';
import { unzip } from './unzip.ts';

const own = openAttempt();
const NAME = 'Wilhelmine Achterberg';
const SECRET = 'left early for the dentist';
let lead: Caller;
let leader: Person;
/** A trainee with a signed piece, a note, a late note, a picture with a reason, and a sign-off. */
let person: Person;
let attemptId: string;
let faceId: string;

beforeAll(async () => {
  leader = await own.world.person('lead', 'Ruta Almqvist');
  lead = await own.world.signedIn(leader);
});

async function signedPieceOf(trainee: Person): Promise<{ piece: string; face: string }> {
  await own.api.post(`/classes/${own.classroom.id}/members`, {
    personId: trainee.id,
    role: 'trainee',
    newPerson: null,
  });
  const body = attemptBody(own.classroom, trainee, { pieceLabel: `Piece of ${NAME}` });
  expect((await own.api.post(`/classes/${own.classroom.id}/attempts`, body)).status).toBe(200);
  own.attemptId = body.id;
  const face = await gradedFaceOf(body.id);
  const entries = wholePiece(body.id, own.teacher, await own.references());
  entries[0] = { ...entries[0]!, note: SECRET };
  await own.receiptsOf(own.api, entries);
  expect(
    (
      await own.sign(
        entries.map((e) => e.id),
        { asVoid: true, reason: SECRET },
      )
    ).status,
  ).toBe(200);
  const late = { ...entries[0]!, id: v7(), supersedes: [entries[0]!.id] };
  const [receipt] = await own.receiptsOf(own.api, [late]);
  expect(receipt!.state).toBe('unmerged');
  return { piece: body.id, face };
}
async function gradedFaceOf(attempt: string): Promise<string> {
  const id = await keepFace(own.api, own.classroom.id, [], { attemptId: attempt, label: `face of ${NAME}` });
  const grading = {
    id: v7(),
    review: { ...NO_REVIEW, verdict: { says: 'fail', reason: SECRET } },
    traineeSaid: 'pass',
  };
  expect((await own.api.post(`/classes/${own.classroom.id}/faces/${id}/gradings`, grading)).status).toBe(200);
  return id;
}
/** Every row of every table that holds a text, whatever its column is. */
async function rowsThatSay(text: string): Promise<string[]> {
  const { owner } = own.world;
  const tables: string[] = await owner('pg_tables').where({ schemaname: 'public' }).pluck('tablename');
  const found: string[] = [];
  for (const table of tables) {
    const { rows } = await owner.raw(
      'select count(*)::int as n from ?? t where position(lower(?) in lower(t::text)) > 0',
      [table, text],
    );
    if (rows[0].n > 0) found.push(table);
  }
  return found;
}
const erase = (id: string, name: string, as = lead) => as.post(`/accounts/${id}/erasure`, { name });
const outlook = async (id: string): Promise<ErasureOutlook> =>
  (await lead.get(`/accounts/${id}/erasure`)).body;

describe('a person', () => {
  beforeEach(async () => {
    // The piece of the common set-up is no part of it.
    await own.api.post(`/attempts/${own.attemptId}/withdrawal`, {});
    person = await own.world.person('trainee', NAME);
    const { piece, face } = await signedPieceOf(person);
    [attemptId, faceId] = [piece, face];
  });

  it('is erased: no table says the name, the login or a note again, and every record still holds', async () => {
    const results = async () =>
      (await own.api.get(`/classes/${own.classroom.id}/results`)).body as { skills: unknown };
    const before = (await results()).skills;
    const asPerson = await own.world.signedIn(person);
    expect(await outlook(person.id)).toMatchObject({
      name: NAME,
      pieces: 1,
      notes: 2,
      reasons: 1,
      gradings: 1,
      pictures: 1,
    });
    expect((await rowsThatSay(SECRET)).sort()).toEqual([
      'entry_notes',
      'face_gradings',
      'signed_revisions',
      'unmerged_entries',
    ]);

    const { body } = await erase(person.id, NAME);
    const erased = body as Erased;
    expect(erased).toMatchObject({
      notes: 1,
      lateNotes: 1,
      reasons: 1,
      gradings: 1,
      labels: 2,
      pictures: 1,
      sharedPictures: 0,
    });
    for (const text of [SECRET, NAME, 'Achterberg', person.login])
      expect(await rowsThatSay(text), text).toEqual([]);
    expect((await verifyRecords(own.world.db, [])).findings).toEqual([]);
    expect((await results()).skills).toEqual(before);
    expect((await asPerson.get('/classes')).status).toBe(401);
    expect(
      (await own.world.caller().post('/session', { login: person.login, password: PASSWORD })).status,
    ).toBe(401);
    const document = (await own.api.get(`/attempts/${attemptId}`)).body as { attempt: object };
    expect(document.attempt).toMatchObject({ traineeName: erased.token, pieceLabel: erased.token });
  });

  it('leaves a picture as large as it was, grey, and one that somebody else has as it is', async () => {
    const other = await own.world.person('trainee');
    const picture = async () => own.api.bytes('GET', `/classes/${own.classroom.id}/faces/${faceId}/picture`);
    const before = (await picture()).body;
    const erased = (await erase(person.id, NAME)).body as Erased;
    const after = await picture();
    expect(after.body.equals(before)).toBe(false);
    expect(pictureHead(after.body)).toEqual(pictureHead(before));
    expect(erased.pictures).toBe(1);

    const theirs = await signedPieceOf(other);
    const shared = await own.world.db('faces').where({ id: theirs.face }).first();
    const twin = await own.world.person('trainee', 'Odo Brandvold');
    const alsoTheirs = await signedPieceOf(twin);
    await own.world.db('faces').insert({
      ...shared,
      id: v7(),
      attempt_id: alsoTheirs.piece,
      criteria: JSON.stringify(shared.criteria),
      engine: JSON.stringify(shared.engine),
    });
    expect((await erase(twin.id, 'Odo Brandvold')).body).toMatchObject({ pictures: 1, sharedPictures: 1 });
  });

  it.each([
    ['with the name of somebody else', () => erase(person.id, 'Odo Brandvold'), 'account.other_name'],
    ['who is not there', () => erase(v7(), NAME), 'not_found.person'],
    ['who asks for it', () => erase(leader.id, leader.name), 'account.own'],
    ['by an instructor', () => erase(person.id, NAME, own.api), 'auth.role'],
  ])('%s is not erased', async (_, act, code) => {
    expect((await act()).problem.code).toBe(code);
    expect((await rowsThatSay(SECRET)).length).toBe(4);
  });
  it('whose piece is open is not erased, and one who was is not erased, opened or invited again', async () => {
    const body = attemptBody(own.classroom, person, { pieceLabel: 'T-77' });
    await own.api.post(`/classes/${own.classroom.id}/attempts`, body);
    expect((await outlook(person.id)).openPieces).toEqual(['T-77']);
    expect((await erase(person.id, NAME)).problem).toMatchObject({
      code: 'class.open_attempts',
      params: { pieces: 'T-77' },
    });
    await own.api.post(`/attempts/${body.id}/withdrawal`, {});
    const { token } = (await erase(person.id, NAME)).body as Erased;
    expect((await erase(person.id, token)).problem.code).toBe('account.erased');
    expect((await lead.put(`/accounts/${person.id}/disabled`, { disabled: false })).problem.code).toBe(
      'account.erased',
    );
    expect((await lead.post(`/accounts/${person.id}/code`, {})).problem.code).toBe('account.erased');
    const state = ((await lead.get('/accounts')).body as AccountState[]).find((a) => a.id === person.id);
    expect(state).toMatchObject({ name: token, erased: true, disabled: true });
  });
  it('is erased by one of two leads who ask at once', async () => {
    const codes = (await Promise.all([erase(person.id, NAME), erase(person.id, NAME)])).map((r) => r.status);
    expect(codes.sort()).toEqual([200, 409]);
  });
  it('the database lets the application erase by that one function and change nothing else', async () => {
    const { db } = own.world;
    await expect(db('faces').update({ label: 'x' })).rejects.toThrow('permission denied');
    await expect(own.world.owner('faces').update({ width: 3 })).rejects.toThrow('append only');
    await expect(own.world.owner('unmerged_entries').update({ entry: '{}' })).rejects.toThrow('append only');
    await expect(own.world.owner('face_gradings').update({ verdict: null })).rejects.toThrow('append only');
  });

  it('reads all that is held about them: as JSON, as a page, and each picture', async () => {
    const asPerson = await own.world.signedIn(person);
    const reply = await asPerson.bytes('GET', '/me/held.zip');
    expect(reply.type).toBe('application/zip');
    const files = await unzip(reply.body);
    const json = JSON.parse(files.get('person.json')!.toString());
    expect(json).toMatchObject({
      format: 'clear-mark person 1',
      account: { name: NAME, login: person.login },
    });
    expect(json.pieces).toHaveLength(1);
    expect(json.pieces[0].entries.filter((e: { note: string | null }) => e.note === SECRET)).toHaveLength(1);
    expect(json.pieces[0].records[0]).toMatchObject({ reason: SECRET, signedBy: own.teacher.name });
    expect(json.lateEntries).toHaveLength(1);
    expect(json.pictures[0].gradings[0].review.verdict.reason).toBe(SECRET);
    expect(files.get(json.pictures[0].file)!.length).toBeGreaterThan(100);
    const page = files.get('person.html')!.toString();
    for (const text of [NAME, SECRET, own.teacher.name, json.pictures[0].file]) expect(page).toContain(text);
    const byLead = await lead.bytes('GET', `/accounts/${person.id}/held.zip`);
    expect([...(await unzip(byLead.body)).keys()].sort()).toEqual([...files.keys()].sort());
    expect((await own.api.bytes('GET', `/accounts/${person.id}/held.zip`)).code).toBe('auth.role');
    expect((await lead.bytes('GET', `/accounts/${v7()}/held.zip`)).code).toBe('not_found.person');
  });
  it('a name that is no plain text stands in the page as text', async () => {
    const odd = await own.world.person('trainee', '<script>alert(1)</script>');
    const files = await unzip((await lead.bytes('GET', `/accounts/${odd.id}/held.zip`)).body);
    expect(files.get('person.html')!.toString()).not.toContain('<script>');
  });
});
