import { ARCHIVE_TABLES, type ArchiveTable } from '@clear-mark/contract/archive';
import { AppError } from '../errors/app-error.ts';

export type Row = Readonly<Record<string, unknown>>;

/** Which table a column refers to. A test compares it with the keys of the database. */
const REFERS: Readonly<Record<string, ArchiveTable>> = {
  attempt_id: 'attempts',
  author_id: 'people',
  before_id: 'faces',
  by: 'people',
  certificate_id: 'certificates',
  class_id: 'classes',
  delivered_by: 'people',
  entry_id: 'entries',
  face_id: 'faces',
  instrument_id: 'things',
  issued_by: 'people',
  made_by: 'people',
  method_version_id: 'method_versions',
  parent_id: 'pieces',
  person_id: 'people',
  piece_id: 'pieces',
  reference_id: 'loss_references',
  run_id: 'call_runs',
  series_id: 'call_series',
  session_id: 'plan_sessions',
  set_by: 'people',
  signed_by: 'people',
  started_by: 'people',
  taken_by: 'people',
  target_id: 'entries',
  thing_id: 'things',
  link_id: 'links',
  trace_id: 'traces',
  trace_run_id: 'trace_runs',
  trace_series_id: 'trace_series',
  trainee_id: 'people',
  withdrawn_by: 'people',
};
/** Where a column of that name refers to something else. */
const ELSEWHERE: Readonly<Partial<Record<ArchiveTable, Readonly<Record<string, ArchiveTable>>>>> = {
  late_decisions: { entry_id: 'unmerged_entries' },
  picture_uploads: { sha256: 'pictures' },
  faces: { sha256: 'pictures' },
  measured_pictures: { sha256: 'pictures' },
};

/** The columns of a table that refer to another row, with the table that it is in. */
export function refersOf(table: ArchiveTable): [column: string, to: ArchiveTable][] {
  const columns = Object.keys(ARCHIVE_TABLES[table].row.shape);
  return columns.flatMap((column) => {
    const to = ELSEWHERE[table]?.[column] ?? REFERS[column];
    return to === undefined ? [] : [[column, to] as [string, ArchiveTable]];
  });
}

/** The column by which others refer to a row of a table. */
const keyOf = (table: ArchiveTable): string | null => {
  const { shape } = ARCHIVE_TABLES[table].row;
  return 'id' in shape ? 'id' : 'sha256' in shape ? 'sha256' : null;
};

/**
 * Holds the lines of an archive to their shapes and to each other: a row may refer to rows of the archive only, so that it
 * can hang itself onto nothing that is here. Errors: `archive.bad_line`, `archive.broken`.
 */
export function rowChecks(classId: string) {
  const known = new Map<ArchiveTable, Set<unknown>>();
  return {
    /** The checks of one table, whose lines come one after the other. */
    table: (table: ArchiveTable) => {
      const { row: shape } = ARCHIVE_TABLES[table];
      const refers = refersOf(table);
      const key = keyOf(table);
      const ids = new Set<unknown>();
      known.set(table, ids);
      let line = 0;
      /** Rows of the same table may come later. */
      const waiting: unknown[] = [];
      const broken = (): AppError => new AppError('archive.broken', { name: table, line });
      return {
        row: (text: string): Row => {
          line += 1;
          let found: unknown;
          try {
            found = JSON.parse(text);
          } catch {
            throw new AppError('archive.bad_line', { name: table, line, field: '', problem: 'no JSON' });
          }
          const parsed = shape.safeParse(found);
          if (!parsed.success) {
            const issue = parsed.error.issues[0]!;
            const field = issue.path.join('.').slice(0, 80);
            throw new AppError('archive.bad_line', { name: table, line, field, problem: issue.message });
          }
          const row = found as Row;
          for (const [column, to] of refers) {
            const value = row[column];
            if (value === null) continue;
            if (to === table) waiting.push(value);
            else if (!known.get(to)!.has(value)) throw broken();
          }
          if (table === 'classes' && row['id'] !== classId) throw broken();
          if (key !== null) ids.add(row[key]);
          return row;
        },
        /** Gives the number of lines. */
        end: (): number => {
          if (waiting.some((id) => !ids.has(id))) throw broken();
          return line;
        },
      };
    },
  };
}
