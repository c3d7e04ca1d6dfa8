import { mkdtemp, rm } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { archiveSink } from '../src/archives/archive.store.ts';
import type { Row } from '../src/archives/archive-rows.ts';
import { makeArchive } from '../src/index.ts';
import { UNIQUE_VIOLATION } from '../src/database/sql-state.ts';
import { World } from './harness.ts';

let world: World;
let classId: string;
beforeAll(async () => {
  world = await World.make();
  classId = (await world.classOf([await world.person('instructor')], [])).id;
});
afterAll(() => world.close());

async function* once(...rows: Row[]): AsyncGenerator<readonly Row[]> {
  yield rows;
}

it('a table that cannot be written ends the others too, those as well that were read to their end before', async () => {
  const thing = { id: v7(), class_id: classId, kind: 'bench', label: 'Ours', removed_at: null };
  await world.owner('things').insert({ id: thing.id, class_id: classId, kind: 'bench', label: 'Ours' });
  const taking = world.db.transaction(async (trx) => {
    const sink = archiveSink(trx, classId);
    // All are read while the first one is still being written: nobody waits for the later ones any more.
    await Promise.all([
      sink.addRows('things', once(thing)),
      sink.addRows('pieces', once()),
      sink.addRows('loss_references', once()),
    ]);
    await sink.flush();
  });
  await expect(taking).rejects.toMatchObject({ code: UNIQUE_VIOLATION, table: 'things' });
  // What a stream throws without a listener comes a tick later, and would end the process.
  await new Promise((done) => setTimeout(done, 50));
  expect(await world.owner('things').where({ id: thing.id }).pluck('label')).toEqual(['Ours']);
});

it('an archive that finds no room fails in words of the system, and the connection goes on', async () => {
  // More than the buffers on the way hold.
  await world.owner.raw(
    `insert into things (id, class_id, kind, label)
     select gen_random_uuid(), ?, 'bench', 'Bench ' || n || ' ' || md5(n::text) from generate_series(1, 100000) n`,
    [classId],
  );
  const made = makeArchive(world.db, { id: classId, name: 'Class' }, new Date(), '/dev/full');
  await expect(made).rejects.toMatchObject({ code: 'ENOSPC' });
  const folder = await mkdtemp(path.join(os.tmpdir(), 'clear-mark-archive-'));
  const nowhere = path.join(folder, 'no folder', 'class.zip');
  const toNowhere = makeArchive(world.db, { id: classId, name: 'Class' }, new Date(), nowhere);
  await expect(toNowhere).rejects.toMatchObject({ code: 'ENOENT' });
  await rm(folder, { recursive: true });
  expect(await world.db('classes').where({ id: classId }).pluck('id')).toEqual([classId]);
});
