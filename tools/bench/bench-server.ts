import { readConfig, startServer } from '@clear-mark/server';

/** The server as a process of its own, so that it is measured without its clients. Prints its address. */
const running = await startServer(readConfig(process.env));
console.log(running.url);
const stop = (): void => void running.stop().then(() => process.exit(0));
process.once('SIGTERM', stop);
// Whoever measures has gone.
process.once('disconnect', stop);
