import { startMailbox } from '@clear-mark/standins';
import { portOf } from './port-of.ts';
import { untilTold } from './until-told.ts';

/** A simulated mail server that prints what it is sent, until it is told to stop. */
export async function runMailbox(args: readonly string[]): Promise<number> {
  const port = portOf(args);
  if (port === null) return 2;
  const running = await startMailbox({ port, onMail: ({ text }) => console.log(`${text}\n`) });
  console.log(`Mails go to smtp://127.0.0.1:${running.port}; none is delivered. Ctrl-C stops it.`);
  await untilTold();
  await running.stop();
  return 0;
}
