import { existsSync } from 'node:fs';

const SHELL = '/usr/bin/chromium-headless-shell';

/** Debian's Chromium with all that it can do: cameras among it. */
export const WHOLE = process.env['CLEAR_MARK_CHROMIUM'] ?? '/usr/bin/chromium';

/** The same browser built without windows and cameras: it takes a tenth less of a processor. Where it is missing the whole one serves. */
export const WITHOUT_WINDOWS =
  process.env['CLEAR_MARK_CHROMIUM'] === undefined && existsSync(SHELL) ? SHELL : WHOLE;
