import { parseArgs } from 'node:util';

export interface RunOptions {
  readonly port: number | null;
  readonly host: string;
  readonly tlsCert: string | null;
  readonly tlsKey: string | null;
}

/** Reads the options of demo and start. Throws an Error with a sentence for the person at the keyboard. */
export function readOptions(args: readonly string[]): RunOptions {
  let values: Record<string, string | undefined>;
  try {
    values = parseArgs({
      args: [...args],
      options: {
        port: { type: 'string' },
        host: { type: 'string' },
        'tls-cert': { type: 'string' },
        'tls-key': { type: 'string' },
      },
    }).values as Record<string, string | undefined>;
  } catch (error) {
    throw new Error(`${(error as Error).message} ./clear-mark help lists the options.`, { cause: error });
  }
  const port = values['port'] === undefined ? null : Number(values['port']);
  if (port !== null && !(Number.isInteger(port) && port > 0 && port < 65536)) {
    throw new Error(`--port ${values['port']} is not a port from 1 to 65535.`);
  }
  return {
    port,
    host: values['host'] ?? '127.0.0.1',
    tlsCert: values['tls-cert'] ?? null,
    tlsKey: values['tls-key'] ?? null,
  };
}
