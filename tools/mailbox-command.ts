import { parseArgs } from 'node:util';
import { startMailbox } from '@clear-mark/standins';
import { untilTold } from './until-told.ts';

/** A simulated mail server that prints what it is sent, until it is told to stop. */
export async function runMailbox(args: readonly string[]): Promise<number> {
  const { values } = parseArgs({ args: [...args], options: { port: { type: 'string' } } });
  const port = values.port === undefined ? 0 : Number(values.port);
  if (!Number.isInteger(port) || port < 0 || port > 65_535) {
    console.error('--port is a number from 1 to 65535.');
    return 2;
  }
  const running = await startMailbox({ port, onMail: ({ text }) => console.log(`${text}\n`) });
  console.log(`Mails go to smtp://127.0.0.1:${running.port}; none is delivered. Ctrl-C stops it.`);
  await untilTold();
  await running.stop();
  return 0;
}
