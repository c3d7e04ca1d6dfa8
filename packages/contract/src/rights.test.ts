import { describe, expect, it } from 'vitest';
import { RIGHTS } from './rights.ts';
import type { Access, Route } from './route.ts';
import { ROUTES } from './routes.ts';

const routes = Object.entries(ROUTES) as [keyof typeof ROUTES, Route][];

describe('who may do what', () => {
  it.each(routes)('%s stands in one line, or is open to everybody', (name, route) => {
    const lines = RIGHTS.filter((right) => right.routes.includes(name));
    expect(lines).toHaveLength(route.access === 'open' ? 0 : 1);
  });
  it.each(RIGHTS.flatMap((right) => right.routes.map((name) => [name, right] as const)))(
    '%s lets nobody in whom its line leaves out, and nobody out whom it lets in',
    (name, { reach }) => {
      const allowed: Readonly<Record<Access, readonly string[]>> = {
        open: [],
        signed_in: ['lead', 'instructor', 'trainee'],
        instructor: ['lead', 'instructor'],
        lead: ['lead'],
      };
      const said = (['lead', 'instructor', 'trainee'] as const).filter((role) => reach[role] !== 'no');
      expect(said).toEqual(allowed[ROUTES[name].access]);
    },
  );
  it('has each line and each act once', () => {
    expect(new Set(RIGHTS.map((r) => r.id)).size).toBe(RIGHTS.length);
    expect(new Set(RIGHTS.map((r) => r.act)).size).toBe(RIGHTS.length);
  });
});
