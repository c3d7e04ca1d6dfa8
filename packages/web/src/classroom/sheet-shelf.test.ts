// @vitest-environment happy-dom
import { ROUTES } from '@clear-mark/contract';
import { LC_WEDGE_LOCATOR } from '@clear-mark/methods';
import { describe, expect, it } from 'vitest';
import { type Asked, freshPages, id, settled, TestServer } from '../../test/page.ts';
import { sheetShelf } from './sheet-shelf.ts';

freshPages();
const version = (n: number) => ({
  id: id(n),
  methodId: LC_WEDGE_LOCATOR.id,
  version: n,
  state: 'in_force',
  sheet: LC_WEDGE_LOCATOR,
});
const attempt = (n: number) => ({ methodVersionId: id(n), schools: {}, link: null });

describe('sheets of method versions on this device', () => {
  it('two who need the same sheet at once wait for one reply', async () => {
    const server = new TestServer();
    const answer = server.hold(ROUTES.methodVersion, version(1));
    const shelf = sheetShelf();
    const both = Promise.all([shelf.needAll([id(1)]), shelf.needAll([id(1), id(1)])]);
    await settled();
    expect(server.of(ROUTES.methodVersion)).toHaveLength(1);
    expect(shelf.sheetFor(attempt(1))).toBeNull();
    answer();
    await both;
    expect(shelf.sheetFor(attempt(1))?.title).toBe(LC_WEDGE_LOCATOR.title);
  });

  it('each is asked for once', async () => {
    const server = new TestServer().on(ROUTES.methodVersion, ({ path }: Asked) => ({
      ...version(1),
      id: path.split('/').pop(),
    }));
    const shelf = sheetShelf();
    await shelf.needAll([id(1), id(2), id(3), id(2)]);
    await shelf.needAll([id(3), id(1)]);
    expect(server.of(ROUTES.methodVersion)).toHaveLength(3);
    expect([1, 2, 3].map((n) => shelf.sheetFor(attempt(n))?.id)).toEqual(
      Array.from({ length: 3 }, () => LC_WEDGE_LOCATOR.id),
    );
  });

  it('after a failure it is asked for again', async () => {
    const server = new TestServer().refuse(ROUTES.methodVersion, 404, 'not_found.method_version', 'none');
    const shelf = sheetShelf();
    await expect(shelf.needAll([id(4)])).rejects.toThrow();
    server.on(ROUTES.methodVersion, version(4));
    await shelf.needAll([id(4)]);
    expect(shelf.sheetFor(attempt(4))?.id).toBe(LC_WEDGE_LOCATOR.id);
  });
});
