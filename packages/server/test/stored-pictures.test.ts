import type { Person } from '@clear-mark/contract';
import { type RunningObjectStore, startObjectStore } from '@clear-mark/standins';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { bringPicturesBack, movePictures, objectStorage, readConfig } from '../src/index.ts';
import { digestOf, faceBody, keepFace, pngOf } from './faces-for-tests.ts';
import { type Caller, type TestClass, World } from './harness.ts';
import { unzip } from './unzip.ts';

const log = { warn: () => undefined };
let store: RunningObjectStore;
let world: World;
let trainee: Person;
let classroom: TestClass;
let api: Caller;
let lead: Caller;
let storage: ReturnType<typeof objectStorage>;

beforeAll(async () => {
  store = await startObjectStore();
  const pictures = { url: store.url, key: store.key, secret: store.secret, region: 'eu-1' };
  storage = objectStorage(pictures, log);
  world = await World.make(undefined, undefined, { pictures });
  const teacher = await world.person('instructor');
  trainee = await world.person('trainee');
  classroom = await world.classOf([teacher], [trainee]);
  api = await world.signedIn(teacher);
  lead = await world.signedIn(await world.person('lead'));
});
afterAll(async () => {
  await world.close();
  await store.stop();
});
beforeEach(() => store.answerNext(503, 0));

/** A picture is moved a minute after it came. */
const aMinuteLater = () =>
  world.owner.raw(`update pictures set received_at = received_at - interval '2 minutes'`);
const move = async (): Promise<number> => {
  await aMinuteLater();
  return movePictures(world.db, storage);
};
const pictureOf = (face: string) => api.bytes('GET', `/classes/${classroom.id}/faces/${face}/picture`);
const face = (label: string): Promise<string> =>
  keepFace(api, classroom.id, [], { label, traineeId: trainee.id });
const sha256Of = async (id: string): Promise<string> =>
  (await world.owner('faces').where({ id }).pluck('sha256'))[0] as string;
const inDatabase = async (id: string): Promise<boolean> =>
  (
    await world
      .owner('pictures')
      .where({ sha256: await sha256Of(id) })
      .pluck('bytes')
  )[0] !== null;

describe('a store for pictures beside the database', () => {
  it('has a picture a minute after it came, whole and with its type; the page gets it as before', async () => {
    const id = await face('first');
    expect(await movePictures(world.db, storage)).toBe(0);
    const before = await pictureOf(id);
    expect(await move()).toBe(1);
    const sha256 = await sha256Of(id);
    expect(await inDatabase(id)).toBe(false);
    expect(store.objects.get(sha256)!.type).toBe('image/png');
    expect(digestOf(store.objects.get(sha256)!.bytes)).toBe(sha256);
    const after = await pictureOf(id);
    expect([after.status, after.type, digestOf(after.body)]).toEqual([200, before.type, sha256]);
    expect(await move()).toBe(0);
  });

  it('a picture that lies there already makes another face without being sent again', async () => {
    const id = await face('again');
    await move();
    const sha256 = await sha256Of(id);
    const reply = await api.post(
      `/classes/${classroom.id}/faces`,
      faceBody(sha256, { label: 'the same picture', traineeId: trainee.id }),
    );
    expect(reply.status).toBe(200);
    const wrong = faceBody(sha256, { width: 641, traineeId: trainee.id });
    expect((await api.post(`/classes/${classroom.id}/faces`, wrong)).problem.code).toBe('face.wrong_size');
  });

  it('one that answers 503 keeps nothing from the class: pictures stay in the database until it is back', async () => {
    const id = await face('while it is away');
    store.answerNext(503, 100);
    await expect(move()).rejects.toMatchObject({ code: 'picture.store_away' });
    expect(await inDatabase(id)).toBe(true);
    expect((await pictureOf(id)).status).toBe(200);
    store.answerNext(503, 0);
    expect(await move()).toBe(1);
    store.answerNext(503, 100);
    expect(await pictureOf(id)).toMatchObject({ status: 503, code: 'picture.store_away' });
    store.answerNext(503, 1);
    // A short trouble is not noticed.
    expect((await pictureOf(id)).status).toBe(200);
  });

  it('what it lost or changed is told, and never shown', async () => {
    const id = await face('changed');
    await move();
    const sha256 = await sha256Of(id);
    const kept = store.objects.get(sha256)!;
    store.objects.set(sha256, { ...kept, bytes: pngOf('another') });
    expect(await pictureOf(id)).toMatchObject({ status: 502, code: 'picture.store_lost' });
    store.objects.delete(sha256);
    expect(await pictureOf(id)).toMatchObject({ status: 502, code: 'picture.store_lost' });
    store.objects.set(sha256, kept);
    expect((await pictureOf(id)).status).toBe(200);
  });

  it('another key gets nothing and puts nothing; so does another bucket', async () => {
    const other = { url: store.url, key: store.key, secret: 'guessed', region: 'eu-1' };
    const sha256 = digestOf(pngOf('x'));
    await expect(objectStorage(other, log).put(sha256, pngOf('x'), 'image/png')).rejects.toMatchObject({
      code: 'picture.store_away',
    });
    const elsewhere = { ...other, secret: store.secret, url: `${store.url}-2` };
    await expect(objectStorage(elsewhere, log).put(sha256, pngOf('x'), 'image/png')).rejects.toMatchObject({
      code: 'picture.store_away',
    });
    expect(store.objects.has(sha256)).toBe(false);
  });

  it('archives and what is held about a person have the pictures in them', async () => {
    const id = await face('in the archive');
    await move();
    const name = `pictures/${await sha256Of(id)}.png`;
    const archive = await unzip((await lead.bytes('GET', `/classes/${classroom.id}/archive.zip`)).body);
    const held = await unzip((await lead.bytes('GET', `/accounts/${trainee.id}/held.zip`)).body);
    for (const files of [archive, held]) expect(digestOf(files.get(name)!)).toBe(await sha256Of(id));
    store.answerNext(503, 1000);
    const refused = await lead.bytes('GET', `/classes/${classroom.id}/archive.zip`);
    expect([refused.status, refused.code]).toEqual([503, 'picture.store_away']);
  });

  it('what is given up goes from there as well', async () => {
    const bytes = pngOf('nobody uses it');
    const sha256 = digestOf(bytes);
    expect((await api.bytes('PUT', `/classes/${classroom.id}/face-blobs/${sha256}`, bytes)).status).toBe(200);
    await move();
    expect(store.objects.has(sha256)).toBe(true);
    await world.owner('pictures').where({ sha256 }).delete();
    store.answerNext(503, 100);
    await expect(movePictures(world.db, storage)).rejects.toMatchObject({ code: 'picture.store_away' });
    expect(store.objects.has(sha256)).toBe(true);
    store.answerNext(503, 0);
    await movePictures(world.db, storage);
    expect(store.objects.has(sha256)).toBe(false);
    expect(await world.owner('picture_removals').pluck('sha256')).toEqual([]);
  });

  it('one that was replaced and came again before it went from there stays', async () => {
    const bytes = pngOf('comes again');
    const sha256 = digestOf(bytes);
    const put = () => api.bytes('PUT', `/classes/${classroom.id}/face-blobs/${sha256}`, bytes);
    await put();
    await move();
    await world
      .owner('pictures')
      .where({ sha256 })
      .update({ bytes: pngOf('grey'), stored_at: null, erased_at: new Date() });
    expect((await put()).status).toBe(200);
    // It is put there anew, and what was to go is forgotten.
    await move();
    expect(store.objects.has(sha256)).toBe(true);
    await movePictures(world.db, storage);
    expect(store.objects.has(sha256)).toBe(true);
  });

  it('erasing a person takes the pictures out of the store', async () => {
    const gone = await world.person('trainee');
    await api.post(`/classes/${classroom.id}/members`, {
      personId: gone.id,
      role: 'trainee',
      newPerson: null,
    });
    const id = await keepFace(api, classroom.id, [], { label: 'of somebody', traineeId: gone.id });
    await move();
    const sha256 = await sha256Of(id);
    expect(store.objects.has(sha256)).toBe(true);
    expect((await lead.post(`/accounts/${gone.id}/erasure`, { name: gone.name })).status).toBe(200);
    await movePictures(world.db, storage);
    expect(store.objects.has(sha256)).toBe(false);
    const grey = await pictureOf(id);
    expect([grey.status, digestOf(grey.body) === sha256]).toEqual([200, false]);
  });

  it('all come back into the database for leaving it, and none stays behind', async () => {
    await face('the last');
    await move();
    const there = store.objects.size;
    expect(there).toBeGreaterThan(3);
    expect(await bringPicturesBack(world.db, storage)).toBe(there);
    expect(store.objects.size).toBe(0);
    const rows = await world.owner('pictures').select('sha256', 'bytes').whereNull('erased_at');
    expect(rows.every((r: { sha256: string; bytes: Buffer }) => digestOf(r.bytes) === r.sha256)).toBe(true);
  });
});

describe('its settings', () => {
  const base = { DATABASE_URL: 'postgres://localhost/x', CLEAR_MARK_PICTURES_KEY: 'k' };
  it.each([
    [{ ...base }, /give all or none/],
    [
      { ...base, CLEAR_MARK_PICTURES_SECRET: 's', CLEAR_MARK_PICTURES_URL: 'http://store.example/b' },
      /https/,
    ],
    [
      { ...base, CLEAR_MARK_PICTURES_SECRET: 's', CLEAR_MARK_PICTURES_URL: 'https://store.example' },
      /bucket/,
    ],
  ])('%j are refused', (settings, words) => {
    expect(() => readConfig(settings)).toThrow(words);
  });
});
