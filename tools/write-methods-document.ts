import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { methodsDocument } from './methods-document.ts';
import { ROOT } from './paths.ts';

writeFileSync(path.join(ROOT, 'docs/methods.md'), methodsDocument());
