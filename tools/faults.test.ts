import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { chainsHold, faultRun, faultSchool } from './bench/faults.ts';

let school: Awaited<ReturnType<typeof faultSchool>>;
beforeAll(async () => {
  school = await faultSchool();
});
afterAll(() => school.end(), 60_000);

describe('a kill under load', () => {
  it.each(['server', 'database', 'both', 'one_of_two', 'both'] as const)(
    'of the %s loses, doubles and skips nothing that was acknowledged',
    async (killed) => {
      const run = await faultRun(school, killed);
      expect(run).toMatchObject({ lost: 0, doubled: 0, gaps: 0 });
      expect(run.acknowledged).toBeGreaterThan(10);
      expect(run.backMs).toBeGreaterThan(0);
    },
    60_000,
  );
  it('leaves every chain whole', async () => {
    expect(await chainsHold(school)).toBe(true);
  });
});
