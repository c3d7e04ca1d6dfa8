import { checkPolicy, checkSheet, type MethodSheet } from '@clear-mark/core';
import type { ArchiveOutlook } from '@clear-mark/contract';
import type { ArchiveHead, ArchiveTable } from '@clear-mark/contract/archive';
import { classesStore } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { sheetDigest } from '../methods/index.ts';
import { archiveHere, type NewPerson, type PersonHere, type VersionHere } from './archive.store.ts';
import type { Row } from './archive-rows.ts';
import type { ArchiveReader } from './read-archive.ts';

const MOST_LOGIN = 40;

/** A version of the archive, and what becomes of it here. */
export interface Version {
  readonly id: string;
  readonly title: string;
  readonly version: number;
  readonly row: Row;
  readonly is: ArchiveOutlook['methods'][number]['is'];
  /** It is here under its own id. */
  readonly there: boolean;
  readonly state: 'in_force' | 'retired';
  /** The version that the class goes on with: itself, one of this school with the same content, or none. */
  readonly goesOnWith: string | null;
}

const text = (row: Row, column: string): string => String(row[column]);

/** Works out, while an archive is read, what taking it in does to accounts and methods of this school. */
export class OutlookReader implements ArchiveReader {
  private readonly small = new Map<ArchiveTable, readonly Row[]>();
  private here: ReadonlyMap<string, PersonHere> = new Map();
  versions: readonly Version[] = [];

  constructor(
    private readonly db: Database,
    private readonly head: ArchiveHead,
    private readonly classIsHere: boolean,
  ) {}

  async whole(table: ArchiveTable, rows: readonly Row[]): Promise<void> {
    this.small.set(table, rows);
    if (table === 'people') await this.readPeople();
    if (table === 'method_versions') await this.readVersions();
    if (table === 'classes') await requireClass(this.db, rows);
  }

  /** Rows are looked through by whoever gives them out. */
  async rows(_: ArchiveTable, groups: AsyncIterable<readonly Row[]>): Promise<void> {
    for await (const _rows of groups);
  }

  picture(): Promise<void> {
    return Promise.resolve();
  }

  private async readPeople(): Promise<void> {
    const people = this.of('people');
    const here = await archiveHere(this.db).people(people.map((p) => text(p, 'id')));
    this.here = new Map(here.map((p) => [p.id, p]));
    // What was erased here does not come back by a file.
    const erased = people.find((p) => p['erased_at'] === null && this.here.get(text(p, 'id'))?.erased);
    if (erased) throw new AppError('archive.erased_here', { name: this.here.get(text(erased, 'id'))!.name });
  }

  /** Accounts that are made: their names to sign in with stay where they are free. */
  async newPeople(): Promise<NewPerson[]> {
    const fresh = this.of('people').filter((p) => !this.here.has(text(p, 'id')));
    const taken = await archiveHere(this.db).loginsLike(fresh.map((p) => text(p, 'login')));
    return fresh.map((p) => {
      const login = freeLogin(text(p, 'login'), taken);
      taken.add(login);
      const role = text(p, 'role');
      return {
        id: text(p, 'id'),
        login,
        name: text(p, 'name'),
        // Who leads elsewhere leads here when a lead says so.
        role: role === 'lead' ? 'instructor' : role,
        erasedAt: p['erased_at'] as string | null,
      };
    });
  }

  private async readVersions(): Promise<void> {
    const rows = this.of('method_versions');
    const here = await archiveHere(this.db).versions(
      rows.map((r) => text(r, 'id')),
      rows.map((r) => text(r, 'method_id')),
    );
    this.versions = rows.map((row) => versionOf(row, here));
  }

  /** The versions that the class has here, with whether it uses them: those of its records, and those it goes on with. */
  methodsOfClass(): Map<string, boolean> {
    const inUse = new Map<string, boolean>();
    for (const row of this.of('class_methods')) {
      const { id, goesOnWith } = this.versions.find((v) => v.id === row['method_version_id'])!;
      const used = row['in_use'] === true && goesOnWith !== null;
      inUse.set(id, (inUse.get(id) ?? false) || (used && goesOnWith === id));
      if (used && goesOnWith !== id) inUse.set(goesOnWith, true);
    }
    return inUse;
  }

  outlook(counts: ReadonlyMap<ArchiveTable, number>): ArchiveOutlook {
    const [of] = this.of('classes');
    return {
      classId: this.head.class.id,
      className: text(of!, 'name'),
      place: text(of!, 'place'),
      startsOn: text(of!, 'starts_on'),
      endsOn: text(of!, 'ends_on'),
      madeAt: this.head.madeAt,
      here: this.classIsHere,
      trainees: this.of('class_members').filter((m) => m['role'] === 'trainee').length,
      pieces: counts.get('attempts') ?? 0,
      records: counts.get('signed_revisions') ?? 0,
      entries: counts.get('entries') ?? 0,
      pictures: counts.get('pictures') ?? 0,
      people: this.of('people').map((p) => {
        const there = this.here.get(text(p, 'id'));
        const role = p['role'] as ArchiveOutlook['people'][number]['role'];
        return { name: text(p, 'name'), role, is: there ? 'here' : 'new', nameHere: there?.name ?? null };
      }),
      methods: this.versions.map(({ title, version, is }) => ({ title, version, is })),
    };
  }

  private of(table: ArchiveTable): readonly Row[] {
    return this.small.get(table) ?? [];
  }
}

/** The class is exactly one, with a time zone and a policy that can be counted by. Errors: `archive.broken`, `policy.*`. */
async function requireClass(db: Database, rows: readonly Row[]): Promise<void> {
  const [row] = rows;
  if (!row || rows.length > 1) throw new AppError('archive.broken', { name: 'classes', line: rows.length });
  const timeZone = text(row, 'time_zone');
  if (!(await classesStore(db).knowsTimeZone(timeZone)))
    throw new AppError('class.bad_time_zone', { timeZone });
  checkPolicy(row['policy'] as never);
}

/** Errors: `archive.digest` of a sheet that is not what its digest says, `archive.other_content`, `sheet.*`. */
function versionOf(row: Row, here: readonly VersionHere[]): Version {
  const id = text(row, 'id');
  const methodId = text(row, 'method_id');
  const digest = text(row, 'digest');
  const sheet = checkSheet(row['sheet'] as MethodSheet);
  const fits = sheetDigest(sheet) === digest && sheet.id === methodId && sheet.version === row['version'];
  if (!fits) throw new AppError('archive.digest', { name: `${methodId}, version ${text(row, 'version')}` });
  const said = { id, title: text(row, 'title'), version: sheet.version, row };
  const there = here.find((v) => v.id === id);
  if (there && there.digest !== digest)
    throw new AppError('archive.other_content', { name: 'method_versions' });
  const ofSchool = here.filter((v) => v.methodId === methodId && !v.beside);
  // A method that nobody has here comes as it is, and the class goes on with it.
  if (!there && ofSchool.length === 0) {
    const state = row['state'] === 'in_force' ? 'in_force' : 'retired';
    return { ...said, is: 'new', there: false, state, goesOnWith: state === 'in_force' ? id : null };
  }
  const same = ofSchool.find(
    (v) => v.digest === digest && v.version === sheet.version && v.state === 'in_force',
  );
  return {
    ...said,
    is: same ? 'same' : 'records_only',
    there: there !== undefined,
    state: 'retired',
    goesOnWith: same?.id ?? null,
  };
}

function freeLogin(wanted: string, taken: ReadonlySet<string>): string {
  for (let n = 1; ; n++) {
    const end = n === 1 ? '' : `-${n}`;
    const login = `${wanted.slice(0, MOST_LOGIN - end.length)}${end}`;
    if (!taken.has(login)) return login;
  }
}
