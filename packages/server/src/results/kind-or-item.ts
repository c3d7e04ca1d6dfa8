import { type Sql, sql } from '../database/sql.ts';

/**
 * What a thing `t` with its settings `s` is compared as: equipment with others of its kind, a lot with other lots of the same item only, since a piece
 * takes one of each item. An item stands as a name of the school's own would.
 */
export const KIND_OR_ITEM: Sql = sql`coalesce('own:' || s.item, t.kind)`;
