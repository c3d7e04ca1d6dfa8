import { isSkill, isThingKind, skillsInOrder, thingsInOrder } from '@clear-mark/core';
import type { OwnNames } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { rowsOf, sql } from '../database/sql.ts';

/** Skills and kinds of equipment that the school named itself, each once, by name. */
export async function ownNames(db: Database): Promise<OwnNames> {
  const found = await rowsOf<{ skill: string | null; thing: string | null }>(
    db,
    sql`
      with named as (select sheet from method_versions where state <> 'retired' and sheet::text like '%"own:%')
      select distinct jsonb_path_query(sheet, '$.steps[*].criteria[*].skill') #>> '{}' as skill, null as thing from named
      union select jsonb_path_query(sheet, '$.steps[*].skill') #>> '{}', null from named
      union select null, jsonb_path_query(sheet, '$.thingsUsed[*]') #>> '{}' from named
      union select null, kind from things where kind like 'own:%'
    `,
  );
  const own = (name: string | null): string[] => (name?.startsWith('own:') ? [name] : []);
  return {
    skills: skillsInOrder(found.flatMap((r) => own(r.skill)).filter(isSkill)),
    things: thingsInOrder(found.flatMap((r) => own(r.thing)).filter(isThingKind)),
  };
}
