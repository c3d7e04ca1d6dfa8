import { OUTCOME_MARKS, verdictOfMark } from '@clear-mark/core';
import type { Results } from '@clear-mark/contract';
import { SCENARIO } from '@clear-mark/demo';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { DEMO_NOW, demoTemplate } from './demo-template.ts';
import { World } from './harness.ts';

const VIEWS = ['classes', 'pieces', 'skills', 'criteria', 'losses', 'sign_offs', 'equipment'];
let world: World;
let results: Results;
let classId: string;
let reader: string;
beforeAll(async () => {
  world = await World.make(() => DEMO_NOW, await demoTemplate());
  classId = (await world.db('classes').where({ name: SCENARIO.className }).pluck('id'))[0];
  const lead = await world.signedIn(await world.person('lead'));
  results = (await lead.get(`/classes/${classId}/results`)).body;
  reader = `reader_${classId.replaceAll('-', '')}`;
  await world.owner.raw(`create role ${reader} nologin; grant usage on schema views to ${reader};
    grant select on all tables in schema views to ${reader}`);
});
afterAll(async () => {
  await world.owner.raw(`drop owned by ${reader}; drop role ${reader}`);
  await world.close();
});
/** What the reader's role gets for a statement. */
const read = <T>(sql: string): Promise<T[]> =>
  world.owner.transaction(async (trx) => {
    await trx.raw(`set local role ${reader}`);
    return (await trx.raw(sql)).rows;
  });

describe('the views for other programs', () => {
  it.each(VIEWS)('%s are read by a role that was given them', async (view) => {
    expect((await read(`select * from views.${view} limit 1`)).length).toBeLessThanOrEqual(1);
  });
  it('give the numbers of the page', async () => {
    const skills = await read<{ skill: string; passed: number; judged: number }>(
      `select skill, count(*) filter (where verdict in ('pass', 'marginal_pass'))::int as passed,
              count(*) filter (where verdict not in ('void', 'incomplete'))::int as judged
         from views.skills where class_id = '${classId}' and skill <> 'whole' group by skill order by skill`,
    );
    const wanted = results.skills.map(({ skill, summary: { rate } }) => ({
      skill,
      passed: rate.kind === 'rate' ? rate.k : 0,
      judged: rate.kind === 'rate' ? rate.n : 0,
    }));
    expect(skills).toEqual(wanted.sort((a, b) => a.skill.localeCompare(b.skill)));
    const [pieces] = await read<{ n: number }>(
      `select count(*)::int as n from views.pieces where class_id = '${classId}'`,
    );
    expect(pieces!.n).toBe(results.signed);
  });
  it('name each mark as the core does', async () => {
    for (const mark of OUTCOME_MARKS) {
      const [row] = await read<{ v: string }>(`select views.verdict_of('${mark}') as v`);
      expect(row!.v).toBe(verdictOfMark(mark));
    }
  });
  it.each(['people', 'entries', 'entry_notes', 'session', 'api_tokens'])(
    'the role reads nothing of the table %s',
    async (table) => {
      await expect(read(`select * from ${table} limit 1`)).rejects.toThrow('permission denied');
    },
  );
  it('and erases nobody, and changes nothing', async () => {
    await expect(read(`select erase_texts_of('${classId}', 'x', '{}')`)).rejects.toThrow('permission denied');
    await expect(read(`update views.classes set name = 'x'`)).rejects.toThrow('permission denied');
  });
});
