import { pino } from 'pino';
import type { Config } from './config.ts';
import type { Database } from './database/database.ts';
import { type Listening, listenAt } from './listening.ts';
import type { Keeping } from './safekeeping/index.ts';
import { openSchool } from './school.ts';

export interface Running {
  readonly url: string;
  readonly db: Database;
  /** One-time code for the first visitor, when nobody has an account yet and this is no demo. */
  readonly setupCode: string | null;
  readonly stop: () => Promise<void>;
}

/**
 * Builds everything and listens. What is started here is released by `stop()` in reverse order.
 * `now` is the server's clock; tests hand in their own. Of several processes of one server the `first` alone gives the code out for
 * the first visitor.
 */
export async function startServer(
  config: Config,
  now: () => Date = () => new Date(),
  more: Pick<Keeping, 'anchorsInBackups'> & { readonly first?: boolean } = {},
): Promise<Running> {
  const log = pino({ level: config.logLevel });
  let at: Listening | null = null;
  const school = await openSchool(config, { now, log, more, stopping: () => at?.stopping() ?? false });
  at = await listenAt(config, log, school.listener, school.close);
  return { url: at.url, db: school.db, setupCode: school.setupCode, stop: at.stop };
}
