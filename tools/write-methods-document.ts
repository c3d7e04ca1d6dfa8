import { archiveJsonSchema } from '@clear-mark/contract/archive';
import { packJsonSchema } from '@clear-mark/contract/pack';
import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { format, type FormatConfig } from 'oxfmt';
import { csvDocument } from './exchange-document.ts';
import { lettersSource } from './letter-ranges.ts';
import { methodsDocument } from './methods-document.ts';
import { ROOT } from './paths.ts';
import { rightsDocument } from './rights-document.ts';

const LETTERS = path.join(ROOT, 'packages/paper/src/letter-ranges.ts');
const style = JSON.parse(readFileSync(path.join(ROOT, '.oxfmtrc.json'), 'utf8')) as FormatConfig;
writeFileSync(LETTERS, (await format(LETTERS, lettersSource(), style)).code);
writeFileSync(path.join(ROOT, 'docs/methods.md'), methodsDocument());
writeFileSync(path.join(ROOT, 'docs/rights.md'), rightsDocument());
writeFileSync(path.join(ROOT, 'docs/csv.md'), csvDocument());
for (const [name, schema] of [
  ['method-pack', packJsonSchema()],
  ['class-archive', archiveJsonSchema()],
] as const) {
  writeFileSync(path.join(ROOT, `docs/formats/${name}.schema.json`), `${JSON.stringify(schema, null, 2)}\n`);
}
