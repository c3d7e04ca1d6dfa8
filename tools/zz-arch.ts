import { openDatabase, makeArchive, openArchive, takeArchive, lookAtArchive, migrate, syncShippedMethods } from '@clear-mark/server';
import pg from 'pg';
const url = process.argv[2]!; const other = url.replace(/[^/]*$/, 'arch_other');
const admin = new pg.Client({ connectionString: url.replace(/[^/]*$/, 'postgres') });
await admin.connect();
await admin.query('drop database if exists arch_other with (force)');
await admin.query('create database arch_other');
await admin.end();
const db = openDatabase(url, 4, 600000, 0);
await migrate(db);
const t = async (n: string, f: () => Promise<any>) => { const a = performance.now(); const r = await f(); console.log(n, (performance.now() - a).toFixed(0), 'ms'); return r; };
const cls = (await db('classes').select('id', 'name'))[Number(process.argv[3] ?? 0)];
console.log(cls);
await t('make', () => makeArchive(db, cls, new Date(), '/tmp/a.zip'));
const o = openDatabase(other, 4, 600000, 0);
await migrate(o); await syncShippedMethods(o);
const me = { id: '0190aaaa-0000-7000-8000-000000000001', role: 'lead' } as any;
await o('people').insert({ id: me.id, login: 'x1', name: 'X', role: 'lead' });
try {
  let a = await openArchive('/tmp/a.zip');
  console.log(await t('look', () => lookAtArchive(o, a)));
  await t('take', () => takeArchive(o, a, me));
  const again = await t('take again', () => takeArchive(o, a, me));
  console.log(again.here);
  console.log(await o('method_versions').select('method_id', 'version', 'beside', 'state').where('beside', true).limit(5));
} catch (e) { console.log(e, (e as any).params); }
await db.destroy(); await o.destroy();
