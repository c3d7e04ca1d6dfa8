import type { MeasuredPicture, NewMeasuredPictureBody } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { rowsOf, sql, type Sql } from '../database/sql.ts';
import type { PictureRow } from '../faces/index.ts';

const COLUMNS: Sql = sql`m.id, m.criterion_id as "criterionId", m.kind, m.sha256, m.width, m.height, m.source, m.reading, m.side, m.layer, m.level, m.dragged,
  m.value_text as value, m.expanded, m.taken_at as "takenAt", p.name as "takenBy"`;

type Row = Record<string, unknown> & { readonly kind: MeasuredPicture['kind'] };
/** A row says of what kind it is: what the other kinds have is not part of it. */
const pictureOf = ({ side, layer, level, ...row }: Row): MeasuredPicture =>
  ({ ...row, ...{ cleave: { side }, end: { layer }, splice: { level } }[row.kind] }) as MeasuredPicture;

export const measuredStore = (db: Database) => ({
  list: async (attemptId: string): Promise<MeasuredPicture[]> =>
    (
      await rowsOf<Row>(
        db,
        sql`select ${COLUMNS} from measured_pictures m join people p on p.id = m.taken_by
           where m.attempt_id = ${attemptId} order by m.taken_at, m.id`,
      )
    ).map(pictureOf),
  byId: async (classId: string, id: string): Promise<MeasuredPicture | null> => {
    const [row] = await rowsOf<Row>(
      db,
      sql`select ${COLUMNS} from measured_pictures m join people p on p.id = m.taken_by
           where m.class_id = ${classId} and m.id = ${id}`,
    );
    return row ? pictureOf(row) : null;
  },
  picture: async (classId: string, id: string): Promise<PictureRow | null> =>
    (
      await rowsOf<PictureRow>(
        db,
        sql`select q.sha256, q.media_type as "mediaType", q.bytes
              from measured_pictures m join pictures q on q.sha256 = m.sha256
             where m.class_id = ${classId} and m.id = ${id}`,
      )
    )[0] ?? null,

  insert: async (
    classId: string,
    attemptId: string,
    { criterionId, value, takenAt, reading, dragged, ...picture }: NewMeasuredPictureBody,
    by: string,
  ): Promise<void> => {
    await db('measured_pictures').insert({
      ...picture,
      class_id: classId,
      attempt_id: attemptId,
      criterion_id: criterionId,
      reading: JSON.stringify(reading),
      dragged: dragged === null ? null : JSON.stringify(dragged),
      value_text: value,
      taken_at: takenAt,
      taken_by: by,
    });
  },
});
