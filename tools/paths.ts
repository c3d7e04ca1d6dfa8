import { createHash } from 'node:crypto';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

/** The project's root. */
export const ROOT = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');
/** Everything that a run makes: clusters, passwords, run files. Ignored by git. */
export const STATE = path.join(ROOT, '.clear-mark');
export const WEB_DIR = path.join(ROOT, 'packages/web/dist');
/** Tells two checkouts apart where their data share a folder. */
export const ROOT_ID = createHash('sha256').update(ROOT).digest('hex').slice(0, 10);
