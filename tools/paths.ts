import { createHash } from 'node:crypto';
import os from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

/** The project's root. */
export const ROOT = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');
/** What a demo, a test or a bench makes: clusters, passwords, run files. Ignored by git; nothing real lies here. */
export const STATE = path.join(ROOT, '.clear-mark');
export const WEB_DIR = path.join(ROOT, 'packages/web/dist');
/** Tells two checkouts apart where their data share a folder. */
export const ROOT_ID = createHash('sha256').update(ROOT).digest('hex').slice(0, 10);

/**
 * Where real data lie when nothing else is said: outside every checkout, so that cleaning one deletes nothing. As
 * root under /var/lib, otherwise in the user's data folder (XDG Base Directory).
 */
export function usualDataFolder(
  environment: Readonly<Record<string, string | undefined>> = process.env,
  root = process.getuid?.() === 0,
): string {
  if (root) return '/var/lib/clear-mark';
  const given = environment['XDG_DATA_HOME'];
  const home =
    given !== undefined && path.isAbsolute(given) ? given : path.join(os.homedir(), '.local/share');
  return path.join(home, 'clear-mark');
}
