import { startProcesses } from '../../../tools/processes.ts';

/** Several processes of a server, as `start --processes` has them; told to stop by a signal. */
const { url, setupCode, pids, stop } = await startProcesses(2, process.env, (line) => console.error(line));
console.log(JSON.stringify({ url, setupCode, pids: pids() }));
process.once('SIGTERM', () => {
  stop().then(
    () => process.exit(0),
    () => process.exit(1),
  );
});
