import { parseArgs } from 'node:util';

/** The port of `--port N`, 0 where none is given: any that is free. Null, after saying so, where it is none. */
export function portOf(args: readonly string[]): number | null {
  const { values } = parseArgs({ args: [...args], options: { port: { type: 'string' } } });
  const port = values.port === undefined ? 0 : Number(values.port);
  if (Number.isInteger(port) && port >= 0 && port <= 65_535) return port;
  console.error('--port is a number from 1 to 65535.');
  return null;
}
