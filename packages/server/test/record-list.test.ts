import type { AttemptList, AttemptRow, Person } from '@clear-mark/contract';
import { SCENARIO } from '@clear-mark/demo';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { DEMO_NOW, demoTemplate } from './demo-template.ts';
import { type Caller, World } from './harness.ts';

let world: World;
let api: Caller;
let classId: string;
let all: number;

beforeAll(async () => {
  world = await World.make(() => DEMO_NOW, await demoTemplate());
  classId = (await world.db('classes').where({ name: SCENARIO.className }).pluck('id'))[0];
  const lead: Person = await world.person('lead');
  api = await world.signedIn(lead);
  all = (await list('')).total;
});
afterAll(() => world.close());

const list = async (query: string): Promise<AttemptList> =>
  (await api.get(`/classes/${classId}/attempts?${query}`)).body;
/** The whole list, page by page as a reader scrolls through it. */
async function whole(query: string): Promise<AttemptRow[]> {
  const rows: AttemptRow[] = [];
  for (;;) {
    const page = await list(`${query}&skip=${rows.length}`);
    rows.push(...page.rows);
    if (page.rows.length === 0 || rows.length >= page.total) return rows;
  }
}

describe('the list of records', () => {
  it.each([
    ['trainee', (r: AttemptRow) => r.traineeName.toLowerCase()],
    ['piece', (r: AttemptRow) => r.pieceLabel.toLowerCase()],
    ['method', (r: AttemptRow) => r.methodTitle.toLowerCase()],
    ['started', (r: AttemptRow) => r.startedAt],
  ] as const)('in order of %s, up and down, every record once', async (sort, key) => {
    const up = await whole(`sort=${sort}&up=yes`);
    expect(new Set(up.map((r) => r.attemptId)).size).toBe(all);
    const keys = up.map(key);
    // The database's own collation decides between letters; so each key stands in one block, and down is up turned round.
    expect(keys.filter((k, i) => k !== keys[i - 1])).toHaveLength(new Set(keys).size);
    const down = await whole(`sort=${sort}`);
    expect(down.map((r) => r.attemptId)).toEqual(up.map((r) => r.attemptId).reverse());
  });

  it('in order of the result: passes first or fails first, what has no verdict last', async () => {
    const places: string[] = ['pass', 'marginal_pass', 'marginal_fail', 'fail'];
    const place = (r: AttemptRow): number => {
      const at = places.indexOf(r.verdict);
      return at < 0 ? places.length : at;
    };
    const up = (await whole('sort=verdict&up=yes')).map(place);
    expect(up).toEqual([...up].sort((a, b) => a - b));
    const judged = (await whole('sort=verdict')).map(place).filter((p) => p < places.length);
    expect(judged).toEqual([...judged].sort((a, b) => b - a));
  });

  it('searched by part of a name or of a label, in whatever case', async () => {
    const some = (await list('')).rows[0]!;
    const byName = await whole(`search=${encodeURIComponent(some.traineeName.slice(2, 7).toUpperCase())}`);
    expect(byName.map((r) => r.attemptId)).toContain(some.attemptId);
    expect(new Set(byName.map((r) => r.traineeName))).toEqual(new Set([some.traineeName]));
    const byLabel = await whole(`search=${encodeURIComponent(some.pieceLabel.toLowerCase())}`);
    expect(byLabel.every((r) => r.pieceLabel.startsWith(some.pieceLabel))).toBe(true);
    expect(byLabel.length).toBeGreaterThan(0);
  });

  it('what a pattern would make of a sign is taken literally', async () => {
    for (const text of ['%', '_', '\\', '%25']) {
      expect((await list(`search=${encodeURIComponent(text)}`)).total, text).toBe(0);
    }
  });

  it('by who signed last, and those of all signers together are all', async () => {
    const signers = await world
      .db('signed_revisions as r')
      .join('attempts as a', 'a.id', 'r.attempt_id')
      .where('a.class_id', classId)
      .distinct('r.signed_by as id');
    expect(signers.length).toBeGreaterThan(1);
    const counts = await Promise.all(signers.map(async ({ id }) => (await list(`instructor=${id}`)).total));
    expect(counts.reduce((a, b) => a + b)).toBe(all);
    expect(Math.min(...counts)).toBeGreaterThan(0);
  });

  it.each(['sort=length', 'up=no', 'search=', `search=${'x'.repeat(61)}`, 'instructor=me'])(
    '%s is refused with its field',
    async (query) => {
      const { status, problem } = await api.get(`/classes/${classId}/attempts?${query}`);
      expect([status, problem.code]).toEqual([422, 'request.bad_field']);
    },
  );
});
