import { startObjectStore } from '@clear-mark/standins';
import { portOf } from './port-of.ts';
import { untilTold } from './until-told.ts';

/** A simulated store for pictures, until it is told to stop. */
export async function runObjectStore(args: readonly string[]): Promise<number> {
  const port = portOf(args);
  if (port === null) return 2;
  const running = await startObjectStore({ port, onRequest: (line) => console.log(line) });
  console.log(`CLEAR_MARK_PICTURES_URL=${running.url}`);
  console.log(`CLEAR_MARK_PICTURES_KEY=${running.key}`);
  console.log(`CLEAR_MARK_PICTURES_SECRET=${running.secret}`);
  console.log('POST {"status":503,"times":3} to /answer makes it fail. It forgets all when Ctrl-C stops it.');
  await untilTold();
  await running.stop();
  return 0;
}
