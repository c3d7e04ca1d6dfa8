import { Validator } from '@seriousme/openapi-schema-validator';
import { describe, expect, it } from 'vitest';
import { FILES } from './files.ts';
import { openApiDocument } from './open-api.ts';
import { RIGHTS } from './rights.ts';
import { TOKEN_RIGHTS } from './api-tokens.ts';
import { ROUTES } from './routes.ts';

const document = openApiDocument('1') as {
  paths: Record<
    string,
    Record<string, { operationId: string; responses: object; parameters: { name: string; in: string }[] }>
  >;
};
const templateOf = (path: string): string => path.replace(/:(\w+)/g, '{$1}');

describe('the interface as OpenAPI 3.1', () => {
  it('is valid by a validator of another make', async () => {
    const { valid, errors } = await new Validator().validate(JSON.parse(JSON.stringify(document)) as never);
    expect(errors ?? []).toEqual([]);
    expect(valid).toBe(true);
  });
  it('has every route, and nothing else', () => {
    const wanted = [...Object.values(ROUTES), ...Object.values(FILES)].map(
      (r) => `${r.method} ${templateOf(r.path)}`,
    );
    const there = Object.entries(document.paths).flatMap(([path, of]) =>
      Object.keys(of).map((method) => `${method} ${path}`),
    );
    expect(there.sort()).toEqual([...new Set(wanted)].sort());
    expect(new Set(wanted).size).toBe(wanted.length);
  });
  it('names each operation once, and each part of its path', () => {
    const operations = Object.entries(document.paths).flatMap(([path, of]) =>
      Object.values(of).map((o) => ({ path, ...o })),
    );
    expect(new Set(operations.map((o) => o.operationId)).size).toBe(operations.length);
    for (const { path, parameters } of operations) {
      const named = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => name);
      expect(parameters.filter((p) => p.in === 'path').map((p) => p.name)).toEqual(named);
    }
  });
});

describe('the rights of a token', () => {
  it.each(TOKEN_RIGHTS)('%s is a line of the table of rights', (id) => {
    expect(RIGHTS.some((r) => r.id === id)).toBe(true);
  });
  it('are none over accounts, people, other tokens and what was kept safe', () => {
    for (const id of ['own-account', 'own-tokens', 'accounts', 'erasure', 'safekeeping', 'sign-off'])
      expect(TOKEN_RIGHTS).not.toContain(id);
  });
  it('each file belongs to a line as well, which lets in whom the file lets in', () => {
    for (const { right, access, path } of Object.values(FILES)) {
      const line = RIGHTS.find((r) => r.id === right)!;
      expect(line, path).toBeDefined();
      expect(line.reach.trainee !== 'no', path).toBe(access === 'signed_in');
      expect(line.reach.instructor !== 'no', path).toBe(access !== 'lead');
    }
  });
});
