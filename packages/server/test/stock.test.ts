import {
  type ClassDetail,
  NO_SETTINGS,
  type Person,
  type Stock,
  type ThingSettings,
} from '@clear-mark/contract';
import { SCENARIO } from '@clear-mark/demo';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { DEMO_NOW, demoTemplate } from './demo-template.ts';
import { type Caller, World } from './harness.ts';

let now = DEMO_NOW;
let world: World;
let api: Caller;
let detail: ClassDetail;
const at = (path: string): string => `/classes/${detail.id}${path}`;

beforeAll(async () => {
  world = await World.make(() => now, await demoTemplate());
  const lead: Person = await world.person('lead');
  api = await world.signedIn(lead);
  const [id] = await world.db('classes').where({ name: SCENARIO.className }).pluck('id');
  // The demo’s own lots would go first.
  await world.db('things').whereIn('kind', ['film', 'batch', 'supply']).update({ retired_at: now });
  detail = (await api.get(`/classes/${id}`)).body;
});
afterAll(() => world.close());

async function lot(label: string, settings: Partial<ThingSettings>, kind = 'batch'): Promise<string> {
  const id = v7();
  expect((await api.post(at('/things'), { id, kind, label })).status).toBe(200);
  expect((await api.put(at(`/things/${id}/settings`), { ...NO_SETTINGS, ...settings })).status).toBe(200);
  return id;
}
async function begin(method: string, thingIds: readonly string[] = []): Promise<string> {
  const body = {
    id: v7(),
    traineeId: detail.trainees[0]!.id,
    methodVersionId: detail.methods.find((m) => m.methodId === `clear-mark/${method}`)!.versionId,
    pieceId: v7(),
    pieceLabel: `Piece ${v7()}`,
    thingIds,
    startedAt: now.toISOString(),
    deviceId: v7(),
    sentAt: now.toISOString(),
    linkId: null,
  };
  expect((await api.post(at('/attempts'), body)).status).toBe(200);
  // Sent again it is the same piece, and nothing is taken twice.
  expect((await api.post(at('/attempts'), body)).status).toBe(200);
  // With other tools it is another one.
  const isTool = detail.things.some((t) => t.id === thingIds[0] && !t.item);
  if (isTool) {
    const other = await api.post(at('/attempts'), { ...body, thingIds: [] });
    expect(other.body).toMatchObject({ code: 'attempt.other_content' });
  }
  return body.id;
}
const shown = async (id: string) =>
  ((await api.get(at('/stock'))).body as Stock).things.find((t) => t.id === id)!;
const act = (id: string, act: string, left: number | null = null, reason = '') =>
  api.post(at(`/things/${id}/events`), { id: v7(), act, left, reason });

describe('the stock of a class', () => {
  it('is counted down by pieces as they begin, from the lot whose turn it is', async () => {
    const late = await lot('Primer B', { item: 'primer', uses: 200, expiresAt: '2031-01-01T00:00:00Z' });
    const soon = await lot('Primer A', { item: 'primer', uses: 200, expiresAt: '2030-01-01T00:00:00Z' });
    const past = await lot('Primer old', { item: 'primer', uses: 200, expiresAt: '2020-01-01T00:00:00Z' });
    const attempt = await begin('acrylic-primer');
    expect([(await shown(late)).left, (await shown(soon)).left, (await shown(past)).left]).toEqual([
      200, 199, 200,
    ]);
    expect((await shown(past)).warnings).toContain('expired');
    const things = await world.db('attempt_things').where({ attempt_id: attempt }).pluck('thing_id');
    expect(things).toEqual([soon]);
    expect((await act(late, 'opened')).status).toBe(200);
    await begin('acrylic-primer');
    expect([(await shown(late)).left, (await shown(soon)).left]).toEqual([199, 199]);
    // A lot that was picked goes before the one whose turn it is.
    await begin('acrylic-primer', [soon]);
    expect([(await shown(late)).left, (await shown(soon)).left]).toEqual([199, 198]);
  });

  it('of tools the uses since their service: arcs, cleaves, matings', async () => {
    const cleaver = detail.things.find((t) => t.kind === 'cleaver')!.id;
    await api.put(at(`/things/${cleaver}/settings`), { ...NO_SETTINGS, uses: 3, positions: 2 });
    expect((await shown(cleaver)).position).toBe(1);
    const before = (await shown(cleaver)).used;
    await begin('bench-cleave', [cleaver]);
    expect((await shown(cleaver)).used).toBe(before + 1);
    now = new Date(now.getTime() + 60_000);
    expect((await act(cleaver, 'serviced')).status).toBe(200);
    expect(await shown(cleaver)).toMatchObject({
      used: 0,
      left: 3,
      position: 2,
      servicedAt: now.toISOString(),
    });
    now = new Date(now.getTime() + 60_000);
    for (let i = 0; i < 4; i++) await begin('bench-cleave', [cleaver]);
    expect(await shown(cleaver)).toMatchObject({
      used: 4,
      left: 0,
      warnings: expect.arrayContaining(['used_up']),
    });
  });

  it('of a test cord the matings since its last check', async () => {
    const cord = detail.things.find((t) => t.kind === 'cord')!.id;
    await api.put(at(`/things/${cord}/settings`), { ...NO_SETTINGS, uses: 500 });
    const before = (await shown(cord)).used;
    await begin('loss-one-cord', [cord]);
    expect((await shown(cord)).used).toBe(before + 2);
    now = new Date(now.getTime() + 60_000);
    const day = now.toISOString().slice(0, 10);
    const check = { id: v7(), checkedOn: day, dueOn: day, lossDb: '0.2', limitDb: '0.5' };
    expect((await api.post(at(`/things/${cord}/checks`), check)).status).toBe(200);
    expect(await shown(cord)).toMatchObject({ used: 0, left: 500, servicedAt: now.toISOString() });
  });

  it('is put right by hand with a reason, which stays, and counts on from there', async () => {
    const id = await lot('Adhesive 7', { item: 'acrylic', uses: 50 });
    await begin('acrylic-primer');
    expect((await act(id, 'corrected', 30, 'one syringe was dropped')).status).toBe(200);
    expect(await shown(id)).toMatchObject({
      left: 30,
      events: [{ act: 'corrected', left: 30, reason: 'one syringe was dropped' }],
    });
    await begin('acrylic-primer');
    expect((await shown(id)).left).toBe(29);
    expect((await act(id, 'corrected', 50)).status).toBe(200);
    expect((await shown(id)).left).toBe(50);
    await expect(world.db('thing_events').update({ reason: 'other' })).rejects.toThrow(
      /append only|permission denied/,
    );
  });

  it('a piece that was withdrawn took nothing', async () => {
    const id = await lot('Adhesive 8', { item: 'acrylic', uses: 50 });
    await act(id, 'opened');
    const attempt = await begin('acrylic-primer');
    const left = (await shown(id)).left!;
    expect((await api.post(`/attempts/${attempt}/withdrawal`, {})).status).toBe(200);
    expect((await shown(id)).left).toBe(left + 1);
  });

  it('what cannot be is refused and changes nothing', async () => {
    const bench = detail.things.find((t) => t.kind === 'bench')!.id;
    const put = (settings: Partial<Record<keyof ThingSettings, unknown>>) =>
      api.put(at(`/things/${bench}/settings`), { ...NO_SETTINGS, ...settings });
    expect((await put({ item: 'glue of tomorrow' })).body).toMatchObject({ code: 'stock.no_such_item' });
    expect((await put({ uses: 0 })).body).toMatchObject({ code: 'request.bad_field' });
    expect((await act(bench, 'corrected', 5)).body).toMatchObject({ code: 'stock.not_counted' });
    expect((await act(v7(), 'opened')).body).toMatchObject({ code: 'not_found.thing' });
    expect((await shown(bench)).settings).toEqual(NO_SETTINGS);
    const trainee = await world.signedIn(await world.person('trainee'));
    expect((await trainee.get(at('/stock'))).status).toBe(403);
  });
});
