import type { MethodSheet } from '@clear-mark/core';
import type { PackPreview, Person } from '@clear-mark/contract';
import type { MethodPack } from '@clear-mark/contract/pack';
import { SHIPPED_METHODS } from '@clear-mark/methods';
import { createHash } from 'node:crypto';
import fc from 'fast-check';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { canonicalJson } from '../src/chain/index.ts';
import { type Caller, World } from './harness.ts';

let world: World;
let other: World;
let asLead: Caller;
let asOtherLead: Caller;
let lead: Person;
type Pack = MethodPack & Record<string, unknown>;
type Versions = { id: string; methodId: string; version: number; title: string }[];

beforeAll(async () => {
  [world, other] = await Promise.all([World.make(), World.make()]);
  lead = await world.person('lead');
  asLead = await world.signedIn(lead);
  asOtherLead = await other.signedIn(await other.person('lead'));
});
afterAll(() => Promise.all([world.close(), other.close()]));

const HEAD = { title: 'Ours', author: 'The school', licence: 'Use it.', language: 'en' };
const versions = async (caller: Caller): Promise<Versions> => (await caller.get('/method-versions')).body;
const textOf = async (versionIds: readonly string[], head: object = HEAD): Promise<string> => {
  const reply = await asLead.post('/method-packs', { ...head, versionIds });
  expect(reply.status).toBe(200);
  return (reply.body as { text: string }).text;
};
const preview = (pack: unknown, caller = asOtherLead) => caller.post('/method-packs/preview', { pack });
const take = (pack: unknown, caller = asOtherLead) => caller.post('/method-packs/import', { pack });
/** With a digest that fits what it holds. */
const sealed = (pack: object): Pack => {
  const { digest: _was, ...rest } = pack as Pack;
  const digest = createHash('sha256').update(canonicalJson(rest)).digest('hex');
  return { ...rest, digest } as unknown as Pack;
};
const ownPack = (id = `own/pack-${v7()}`, more: Partial<MethodSheet> = {}): Pack => {
  const [sheet] = SHIPPED_METHODS;
  const methods = [{ ...sheet!, id, version: 1, ...more }];
  return sealed({ ...HEAD, format: 'clear-mark/method-pack', schemaVersion: 1, methods });
};
const rows = async (): Promise<number> =>
  Number((await other.db('method_versions').count('* as n'))[0]!['n']);

describe('a pack', () => {
  it('of the whole shipped library is equal everywhere, and its sheets are the shipped ones', async () => {
    const all = await versions(asLead);
    expect(all).toHaveLength(SHIPPED_METHODS.length);
    const pack = JSON.parse(await textOf(all.map((v) => v.id))) as Pack;
    const byId = new Map(pack.methods.map((m) => [m.id, m]));
    for (const sheet of SHIPPED_METHODS)
      expect(byId.get(sheet.id)).toEqual(JSON.parse(JSON.stringify(sheet)));
    const reply = await take(pack);
    expect(reply.status).toBe(200);
    expect(new Set((reply.body as PackPreview).methods.map((m) => m.is))).toEqual(new Set(['equal']));
  });

  it('is the same bytes for the same methods, in whatever order they were chosen', async () => {
    const ids = (await versions(asLead)).map((v) => v.id);
    await fc.assert(
      fc.asyncProperty(fc.shuffledSubarray(ids, { minLength: 1, maxLength: 6 }), async (some) => {
        const text = await textOf(some);
        expect(await textOf([...some].reverse())).toBe(text);
        expect(sealed(JSON.parse(text) as Pack).digest).toBe((JSON.parse(text) as Pack).digest);
        expect((await preview(JSON.parse(text))).status).toBe(200);
      }),
      { numRuns: 12 },
    );
  });

  it('carries a method of a school to another one, where it is in force and goes out again as it came', async () => {
    const body = { id: v7(), from: (await versions(asLead))[0]!.id, as: 'new_method', title: 'Carried' };
    await asLead.post('/method-drafts', body);
    const made = await asLead.post(`/method-drafts/${body.id}/publication`, { revision: 1, classId: null });
    const text = await textOf([(made.body as { id: string }).id]);
    expect((await preview(JSON.parse(text))).body).toMatchObject({
      ...HEAD,
      methods: [{ title: 'Carried', version: 1, is: 'new' }],
    });
    await take(JSON.parse(text));
    const there = (await versions(asOtherLead)).find((v) => v.title === 'Carried')!;
    const again = await asOtherLead.post('/method-packs', { ...HEAD, versionIds: [there.id] });
    expect((again.body as { text: string }).text).toBe(text);
    expect((await take(JSON.parse(text))).body).toMatchObject({ methods: [{ is: 'equal' }] });
  });

  it('a further version of a method that is here arrives as a draft', async () => {
    const first = ownPack();
    await take(first);
    const { id } = first.methods[0]!;
    expect((await take(ownPack(id, { version: 2 }))).body).toMatchObject({ methods: [{ is: 'next' }] });
    const states = await other
      .db('method_versions')
      .where({ method_id: id })
      .orderBy('version')
      .pluck('state');
    expect(states).toEqual(['in_force', 'draft']);
  });

  it('taken twice at once is there once', async () => {
    const pack = ownPack();
    const replies = await Promise.all([take(pack), take(pack), take(pack)]);
    expect(replies.map((r) => r.status)).toEqual([200, 200, 200]);
    const kinds = replies.map((r) => (r.body as PackPreview).methods[0]!.is).sort();
    expect(kinds).toEqual(['equal', 'equal', 'new']);
  });

  it('is the lead’s alone', async () => {
    const asTeacher = await world.signedIn(await world.person('instructor'));
    expect((await asTeacher.get('/method-versions')).status).toBe(403);
    expect((await asTeacher.post('/method-packs', { ...HEAD, versionIds: [v7()] })).status).toBe(403);
    expect((await take(ownPack(), asTeacher)).status).toBe(403);
  });
});

describe('a pack is refused whole, with the place and the reason', () => {
  const first = (pack: Pack, by: (sheet: Record<string, never>) => object): Pack =>
    sealed({ ...pack, methods: [by(pack.methods[0] as never), ...pack.methods.slice(1)] });
  const twoMethods = (): Pack => {
    const one = ownPack();
    return sealed({ ...one, methods: [...one.methods, ...ownPack().methods] });
  };

  it.each<[string, () => unknown, string, RegExp]>([
    ['nothing', () => null, 'pack.not_one', /no method pack/],
    ['a list', () => [1, 2], 'pack.not_one', /no method pack/],
    ['another file', () => ({ hello: 'there' }), 'pack.not_one', /no method pack/],
    [
      'another schema version',
      () => ({ ...ownPack(), schemaVersion: 2 }),
      'pack.other_schema',
      /version 2.*is 1/,
    ],
    ['a key that nobody knows', () => ({ ...ownPack(), more: 1 }), 'pack.bad_field', /more/],
    [
      'a second method with a limit without a unit',
      () => {
        const pack = twoMethods();
        const text = JSON.stringify(pack).replace(
          /"unit":"(mm|deg)"(?!.*"unit":"(mm|deg)")/,
          '"unit":"yards"',
        );
        return sealed(JSON.parse(text) as Pack);
      },
      'pack.bad_field',
      /^methods\.1\.steps\.\d+\.criteria\.\d+\.unit/,
    ],
    [
      'a source without words',
      () =>
        first(ownPack(), (s) => ({ ...s, passMarkSource: { kind: 'house', fromMemory: false, words: '' } })),
      'pack.bad_field',
      /^methods\.0\.passMarkSource\.words/,
    ],
    [
      'a script in a text',
      () => first(ownPack(), (s) => ({ ...s, summary: 'x <script>alert(1)</script>' })),
      'pack.markup',
      /^methods\.0\.summary/,
    ],
    [
      'an image in a text',
      () => first(ownPack(), (s) => ({ ...s, title: '<img src=x onerror=y>' })),
      'pack.markup',
      /^methods\.0\.title/,
    ],
    [
      'a digest of something else',
      () => ({ ...ownPack(), title: 'Changed' }),
      'pack.digest',
      /digest does not fit/,
    ],
    [
      'a version twice',
      () => {
        const pack = ownPack();
        return sealed({ ...pack, methods: [...pack.methods, ...pack.methods] });
      },
      'pack.repeated',
      /version 1 is in the pack twice/,
    ],
    [
      'an id twice',
      () =>
        first(ownPack(), (s) => {
          const steps = s['steps'] as unknown as { criteria: object[] }[];
          return {
            ...s,
            steps: [
              { ...steps[0]!, criteria: [...steps[0]!.criteria, steps[0]!.criteria[0]!] },
              ...steps.slice(1),
            ],
          };
        }),
      'pack.not_sound',
      /same id/,
    ],
    [
      'a published version changed',
      () =>
        sealed({
          ...ownPack(SHIPPED_METHODS[0]!.id, { version: SHIPPED_METHODS[0]!.version, title: 'Other' }),
        }),
      'pack.changed_version',
      /other content/,
    ],
  ])('%s', async (_name, made, code, words) => {
    const before = await rows();
    const pack = made();
    for (const reply of [await preview(pack), await take(pack)]) {
      expect(reply.problem.code).toBe(code);
      expect(reply.problem.detail).toMatch(words);
      expect(reply.problem.detail).toMatch(/[Nn]othing was taken/);
    }
    expect(await rows()).toBe(before);
  });

  it('with a good method beside a bad one takes neither', async () => {
    const pack = twoMethods();
    const bad = sealed({ ...pack, methods: [pack.methods[0]!, { ...pack.methods[1]!, passMarkPercent: 0 }] });
    const before = await rows();
    expect((await take(bad)).problem.code).toBe('pack.bad_field');
    expect(await rows()).toBe(before);
  });

  it('a "less than" in a text is no markup', async () => {
    const pack = first(ownPack(), (s) => ({ ...s, summary: 'Loss < 0.3 dB, angle <1 degree, 3 > 2.' }));
    expect((await preview(pack)).status).toBe(200);
  });

  it('50 MB', async () => {
    const reply = await take({ ...ownPack(), licence: 'x'.repeat(50_000_000) });
    expect([reply.status, reply.problem.code]).toEqual([413, 'request.too_large']);
  });
});

describe('tables in a pack', () => {
  const SOURCE = { kind: 'house', fromMemory: false, words: 'our book' } as const;
  const drill = (title: string) => ({
    kind: 'drill' as const,
    title,
    content: {
      title,
      how: 'One after the other.',
      skill: 'strip' as const,
      criterion: null,
      minutesEach: 4,
      consumables: [],
      source: SOURCE,
    },
  });
  it('go with the methods, come in equal, and a further version follows', async () => {
    const id = v7();
    await asLead.put(`/school-tables/${id}`, { from: 0, retired: false, table: drill('Ours') });
    const [version] = await versions(asLead);
    const made = async (): Promise<Pack> => {
      const body = { ...HEAD, versionIds: [version!.id], tableIds: [id] };
      return JSON.parse(((await asLead.post('/method-packs', body)).body as { text: string }).text);
    };
    const first = await made();
    expect(first.tables).toEqual([{ id, version: 1, table: drill('Ours') }]);
    expect(((await preview(first)).body as PackPreview).tables.map((t) => t.is)).toEqual(['new']);
    expect((await take(first)).status).toBe(200);
    expect(((await preview(first)).body as PackPreview).tables.map((t) => t.is)).toEqual(['equal']);
    await asLead.put(`/school-tables/${id}`, { from: 1, retired: false, table: drill('Ours, longer') });
    const second = await made();
    expect(((await take(second)).body as PackPreview).tables.map((t) => t.is)).toEqual(['next']);
    expect(((await preview(first)).body as PackPreview).tables.map((t) => t.is)).toEqual(['equal']);
    const there = (await asOtherLead.get(`/school-tables/${id}/versions`)).body as { title: string }[];
    expect(there.map((t) => t.title)).toEqual(['Ours, longer', 'Ours']);
  });
  it('are refused whole: a version that was changed, an id twice, markup', async () => {
    const id = v7();
    const before = await rows();
    const pack = (...tables: object[]): Pack => sealed({ ...ownPack(), tables });
    expect((await take(pack({ id, version: 1, table: drill('Here') }))).status).toBe(200);
    const refused = async (...tables: object[]): Promise<string> =>
      (await take(pack(...tables))).problem.code;
    expect(await refused({ id, version: 1, table: drill('Changed') })).toBe('pack.changed_version');
    const other = { id: v7(), version: 1, table: drill('Twice') };
    expect(await refused(other, other)).toBe('pack.repeated');
    expect(await refused({ ...other, table: drill('<script>') })).toBe('pack.markup');
    expect(await rows()).toBe(before + 1);
  });
});
