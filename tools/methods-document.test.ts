import { archiveJsonSchema } from '@clear-mark/contract/archive';
import { packJsonSchema } from '@clear-mark/contract/pack';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { SHIPPED_METHODS } from '@clear-mark/methods';
import { expect, it } from 'vitest';
import { methodsDocument } from './methods-document.ts';
import { csvDocument } from './exchange-document.ts';
import { rightsDocument } from './rights-document.ts';
import { ROOT } from './paths.ts';

it('docs/methods.md is what the data says', () => {
  expect(readFileSync(path.join(ROOT, 'docs/methods.md'), 'utf8')).toBe(methodsDocument());
});

it('every criterion of every method stands in it, with a source', () => {
  const lines = methodsDocument().split('\n');
  for (const sheet of SHIPPED_METHODS) {
    const from = lines.indexOf(`## ${sheet.title}`);
    expect(from).toBeGreaterThan(0);
    const next = lines.findIndex((l, i) => i > from && l.startsWith('## '));
    const part = lines.slice(from, next < 0 ? undefined : next).join('\n');
    for (const c of sheet.steps.flatMap((s) => s.criteria)) expect(part).toContain(c.label);
  }
});

it.each([
  ['method-pack', packJsonSchema()],
  ['class-archive', archiveJsonSchema()],
])('the published schema of a %s is the one that such files are read by', (name, schema) => {
  const file = readFileSync(path.join(ROOT, `docs/formats/${name}.schema.json`), 'utf8');
  expect(file).toBe(`${JSON.stringify(schema, null, 2)}\n`);
});

it('docs/csv.md is what the tables say', () => {
  expect(readFileSync(path.join(ROOT, 'docs/csv.md'), 'utf8')).toBe(csvDocument());
});
it('docs/rights.md is what the table says', () => {
  expect(readFileSync(path.join(ROOT, 'docs/rights.md'), 'utf8')).toBe(rightsDocument());
});
