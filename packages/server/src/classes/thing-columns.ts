import type { Thing } from '@clear-mark/contract';
import { type Sql, sql } from '../database/sql.ts';

/** A row of `THING_COLUMNS`. */
export type ThingRow = Omit<Thing, 'check' | 'item'> & {
  readonly check: Thing['check'] | null;
  readonly item: string | null;
};

/** Columns of a thing `t` as everybody who is shown it needs them: a test cord with its newest check. */
export const THING_COLUMNS: Sql = sql`t.id, t.kind, t.label, t.retired_at is not null as retired,
  (select s.item from thing_settings s where s.thing_id = t.id) as item,
  (select jsonb_build_object('id', c.id, 'checkedOn', c.checked_on, 'dueOn', c.due_on, 'lossDb', c.loss_db,
          'limitDb', c.limit_db, 'by', p.name, 'at', c.at)
     from cord_checks c join people p on p.id = c.by
    where c.thing_id = t.id order by c.at desc, c.id desc limit 1) as "check"`;

export const thingOf = ({ check, item, ...thing }: ThingRow): Thing => ({
  ...thing,
  ...(item === null ? {} : { item }),
  ...(check ? { check } : {}),
});
