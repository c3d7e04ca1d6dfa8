import { fork } from 'node:child_process';
import os from 'node:os';
import { fileURLToPath } from 'node:url';

/**
 * Hands orders to as many processes as cores; each takes the next when it is done with one. `worker` is a file beside this one that answers a
 * message with a message. Results come as they are done.
 */
export async function onAllCores<R>(
  worker: string,
  orders: readonly object[],
  done: (result: R) => void = () => undefined,
): Promise<R[]> {
  const results: R[] = [];
  let next = 0;
  const count = Math.max(1, Math.min(os.cpus().length, orders.length));
  await Promise.all(
    Array.from(
      { length: count },
      () =>
        new Promise<void>((resolve, reject) => {
          const process = fork(fileURLToPath(new URL(worker, import.meta.url)), [], {
            execArgv: ['--import', 'tsx'],
          });
          const give = (): void => {
            const order = orders[next++];
            if (order === undefined) process.disconnect();
            else process.send(order);
          };
          process.on('error', reject);
          process.on('exit', (code) =>
            code === 0 ? resolve() : reject(new Error(`${worker} stopped: ${code}`)),
          );
          process.on('message', (result) => {
            results.push(result as R);
            done(result as R);
            give();
          });
          give();
        }),
    ),
  );
  return results;
}
