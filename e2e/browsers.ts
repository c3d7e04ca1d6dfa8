import { existsSync } from 'node:fs';
import { CHROMIUM } from '../tools/bench/browser.ts';

const SHELL = '/usr/bin/chromium-headless-shell';

/** Debian's Chromium with all that it can do: cameras among it. */
export const WHOLE = CHROMIUM.executablePath;

/** The same browser built without windows and cameras: it takes a tenth less of a processor. Where it is missing the whole one serves. */
export const WITHOUT_WINDOWS =
  process.env['CLEAR_MARK_CHROMIUM'] === undefined && existsSync(SHELL) ? SHELL : WHOLE;
