import { readConfig, startSchools, startServer } from '@clear-mark/server';
import { anchorsInBackups } from './backup.ts';

/** One of several processes of a server: told its settings by its environment, and to stop by its parent. */
const backups = process.env['CLEAR_MARK_BACKUPS'];
const config = readConfig(process.env);
const running = config.schools
  ? { ...(await startSchools({ config })), setupCode: null }
  : await startServer(config, () => new Date(), {
      first: process.env['CLEAR_MARK_FIRST'] === 'yes',
      ...(backups === undefined ? {} : { anchorsInBackups: () => anchorsInBackups(backups) }),
    });
const end = (): void => {
  running.stop().then(
    () => process.exit(0),
    () => process.exit(1),
  );
};
process.once('SIGTERM', end);
// A signal for the whole group reaches the parent as well, which tells each of its processes.
process.on('SIGINT', () => undefined);
process.once('disconnect', end);
process.send?.({ url: running.url, setupCode: running.setupCode });
