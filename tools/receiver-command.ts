import { parseArgs } from 'node:util';
import { startReceiver } from '@clear-mark/standins';
import { untilTold } from './until-told.ts';

/** A simulated program that is told what happens, until it is told to stop. */
export async function runReceiver(args: readonly string[]): Promise<number> {
  const { values } = parseArgs({
    args: [...args],
    options: { key: { type: 'string' }, port: { type: 'string' } },
  });
  const port = values.port === undefined ? 0 : Number(values.port);
  if (!Number.isInteger(port) || port < 0 || port > 65_535) {
    console.error('--port is a number from 1 to 65535.');
    return 2;
  }
  const running = await startReceiver({
    port,
    ...(values.key === undefined ? {} : { key: values.key }),
    onReceived: (line) => console.log(line),
  });
  console.log(`webhooks   http://127.0.0.1:${running.port}/hook`);
  console.log(`statements http://127.0.0.1:${running.port}/xapi  user store, password store`);
  console.log('POST {"status":503,"times":3} to /answer makes it fail. Ctrl-C stops it.');
  await untilTold();
  await running.stop();
  return 0;
}
