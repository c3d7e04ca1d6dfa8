import { SCENARIO } from '@clear-mark/demo';
import type { SpliceRow } from '@clear-mark/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { DEMO_NOW, demoTemplate } from './demo-template.ts';
import { type Caller, World } from './harness.ts';

let world: World;
let api: Caller;
let classId: string;
const rows = async (): Promise<SpliceRow[]> => (await api.get(`/classes/${classId}/splices`)).body;

beforeAll(async () => {
  world = await World.make(() => DEMO_NOW, await demoTemplate());
  classId = (await world.db('classes').whereNot({ name: SCENARIO.className }).pluck('id'))[0];
  api = await world.signedIn(await world.person('lead'));
});
afterAll(() => world.close());

interface Stored {
  readonly id: string;
  readonly criterion_id: string;
  readonly part: string;
  readonly value: { readonly kind: string; readonly text?: string; readonly passed?: boolean } | null;
  readonly supersedes: readonly string[];
}
/** The text that stands for a criterion: the entry that no other supersedes. */
async function textOf(attemptId: string, name: string, part = ''): Promise<string | null> {
  const all: Stored[] = await world.db('entries').where({ attempt_id: attemptId, kind: 'value' });
  const gone = new Set(all.flatMap((e) => e.supersedes));
  const [one] = all.filter((e) => e.criterion_id.endsWith(`/${name}`) && e.part === part && !gone.has(e.id));
  return one?.value?.text?.replace(',', '.') ?? null;
}

describe('the splices of a class', () => {
  it('are its attempts in the order of their making, each with what was measured', async () => {
    const found = await rows();
    const attempts = await world
      .db('attempts as a')
      .join('method_versions as v', 'v.id', 'a.method_version_id')
      .whereIn('v.method_id', ['clear-mark/single-fusion', 'clear-mark/ribbon-splice'])
      .where({ class_id: classId })
      .orderBy('started_at')
      .select('a.id');
    // A ribbon has a row a fiber.
    expect([...new Set(found.map((r) => r.attemptId))]).toEqual(attempts.map((a: { id: string }) => a.id));
    expect(found.length).toBeGreaterThan(10);
    for (const row of found.slice(0, 12)) {
      const left = await textOf(row.attemptId, 'angle-left');
      const right = await textOf(row.attemptId, 'angle-right');
      expect([row.leftDeg, row.rightDeg]).toEqual([left, right].map((t) => (t === null ? null : Number(t))));
      const estimate = await textOf(row.attemptId, 'estimate');
      expect(row.estimateDb).toBe(estimate === null ? null : Number(estimate));
      const forward = await textOf(row.attemptId, 'both-ways', 'a_b');
      const back = await textOf(row.attemptId, 'both-ways', 'b_a');
      const mean = forward === null || back === null ? null : (Number(forward) + Number(back)) / 2;
      expect(row.meanDb).toBe(mean);
    }
    expect(found.some((r) => r.meanDb !== null)).toBe(true);
  });

  it('a signed one has its verdict, an open one none, and a withdrawn one is not there', async () => {
    const [first, second] = await rows();
    const [mark] = await world
      .db('outcome_skills')
      .where({ attempt_id: first!.attemptId, skill: 'whole' })
      .pluck('mark');
    expect([first!.signed, first!.verdict]).toEqual([true, mark]);
    await world.owner.raw('alter table attempts disable trigger user');
    await world.owner('attempts').where({ id: second!.attemptId }).update({ state: 'withdrawn' });
    await world.owner.raw('alter table attempts enable trigger user');
    expect((await rows()).some((r) => r.attemptId === second!.attemptId)).toBe(false);
  });

  it('are shown to the class’s instructors alone', async () => {
    const stranger = await world.signedIn(await world.person('instructor'));
    expect((await stranger.get(`/classes/${classId}/splices`)).problem.code).toBe('auth.not_in_class');
  });
});
