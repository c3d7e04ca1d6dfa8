import { Linter } from 'eslint';
import tseslint from 'typescript-eslint';
import { describe, expect, it } from 'vitest';
import rule, { writingNames } from './check-then-write.js';

const problems = (code: string): string[] => {
  const linter = new Linter();
  const config: Linter.Config = {
    files: ['**/*.ts'],
    languageOptions: { parser: tseslint.parser as Linter.Parser },
    plugins: { server: { rules: { 'check-then-write': rule } } },
    rules: { 'server/check-then-write': ['error', { writes: ['insert', 'save'] }] },
  };
  return linter.verify(code, [config], 'some.service.ts').map((m) => m.message);
};
const service = (body: string) =>
  `export const s = (db) => { const store = thingsStore(db); return { act: async () => { ${body} } }; };`;

describe('what is looked at before a change is looked at in its transaction', () => {
  it.each([
    ['a read, then a write through the store', 'if (await store.byId(1)) return; await store.insert(1);'],
    ['a read by a helper', 'await found(db, 1); await store.save(1);'],
    ['reads of several at once', 'await Promise.all([store.byId(1)]); await store.save(1);'],
    [
      'a read, then a transaction',
      'const n = await store.count(); await db.transaction((trx) => thingsStore(trx).insert(n));',
    ],
    [
      'a read, then the lock of one thing',
      'await thingsStore(db).byId(1); await oneAtATime(db, "class", 1, (trx) => 0);',
    ],
    [
      'a read, then a write in a function that is handed on',
      'await store.byId(1); await createOnce(() => store.insert(1));',
    ],
  ])('%s is reported', (_, body) => {
    expect(problems(service(body))).toEqual([
      expect.stringMatching(/looked at outside of the transaction that changes it/),
    ]);
  });

  it('a read before a function of the file that changes something is reported', () => {
    const code = `${service('await store.byId(1); await put(db, 1);')}
      function put(db, n) { return db.transaction((trx) => thingsStore(trx).insert(n)); }`;
    expect(problems(code)).toHaveLength(1);
  });

  it.each([
    [
      'everything within',
      'await db.transaction(async (trx) => { await thingsStore(trx).byId(1); await thingsStore(trx).insert(1); });',
    ],
    ['a read after the write', 'await store.insert(1); return store.byId(1);'],
    ['whether the person may do it', 'await classForInstructor(db, 1, me); await store.save(1);'],
    ['reads alone', 'await store.byId(1); return store.byId(2);'],
  ])('%s is taken', (_, body) => {
    expect(problems(service(body))).toEqual([]);
  });

  it('knows a store’s writes by their text', () => {
    const store = `export const thingsStore = (db) => ({
  byId: (id) => db('things').where({ id }).first(),
  save: async (id) => {
    await db('things').insert({ id }).onConflict('id').merge();
  },
  close: (id) => rowsOf(db, sql\`update things set closed = true where id = \${id}\`),
});
export async function putRows(db) { await insertRows(db, 'things', []); }
`;
    expect([...writingNames([store.replaceAll('(id) =>', '(id: string) =>')])].sort()).toEqual([
      'close',
      'putRows',
      'save',
    ]);
  });
});
