import type { StandingName } from '@clear-mark/core';
import type { OwnSkills, Person } from '@clear-mark/contract';
import { drillFor } from '@clear-mark/methods';
import { classesStore } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { classStandings } from '../results/index.ts';
import { schoolDrills } from '../tables/index.ts';
import { planStore } from './plan.store.ts';

/** Standings that are not reached yet: what to practise stands beside them. */
const PRACTISE: readonly StandingName[] = ['retrain', 'lapsed', 'watch', 'learning'];

/** A trainee's own standing in each skill of each class, with the drill that helps and the session that is planned. */
export async function ownSkills(db: Database, me: Person, now: Date): Promise<OwnSkills[]> {
  const store = classesStore(db);
  const drills = await schoolDrills(db);
  const found: OwnSkills[] = [];
  for (const { id } of await store.ofMember(me.id)) {
    if ((await store.memberRole(id, me.id)) !== 'trainee') continue;
    const taught = (await store.byId(id))!;
    const cells = (await classStandings(db, taught, now))(me.id);
    const items = (await planStore(db).items(id)).filter((i) => i.traineeId === me.id && i.closedAt === null);
    const sessions = await planStore(db).sessions(id);
    found.push({
      classId: id,
      className: taught.name,
      timeZone: taught.timeZone,
      policy: taught.policy,
      skills: cells.map((cell) => {
        const item = items.find((i) => i.skill === cell.skill);
        const usual = PRACTISE.includes(cell.standing)
          ? drillFor(cell.skill, cell.behind?.criterionId ?? null, drills).how
          : null;
        return {
          ...cell,
          drill: item?.drill ?? usual,
          session: sessions.find((s) => s.id === item?.sessionId) ?? null,
        };
      }),
    });
  }
  return found;
}
