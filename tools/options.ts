import { parseArgs } from 'node:util';

export interface RunOptions {
  readonly port: number | null;
  /** How many processes answer on the port. */
  readonly processes: number;
  /** A proxy on this machine speaks TLS with browsers. */
  readonly behindProxy: boolean;
  readonly host: string;
  readonly tlsCert: string | null;
  readonly tlsKey: string | null;
  /** Folder of the data, where it is not the usual one. */
  readonly data: string | null;
  /** Move the data that an earlier version kept in the checkout. */
  readonly moveData: boolean;
  /** Networks that the lead may set addresses of instruments in, beside this machine. */
  readonly instruments: string | null;
  /** Further names by which browsers may call the server. */
  readonly names: string | null;
  /** Many schools, each with a database of its own. */
  readonly schools: boolean;
  /** File that names further database clusters. */
  readonly clusters: string | null;
  /** Where a copy of each daily backup goes. */
  readonly backupTo: string | null;
}

const MOST_PROCESSES = 64;

/** Reads the options of demo and start. Throws an Error with a sentence for the person at the keyboard. */
export function readOptions(args: readonly string[]): RunOptions {
  let values: Record<string, string | boolean | undefined>;
  try {
    values = parseArgs({
      args: [...args],
      options: {
        port: { type: 'string' },
        processes: { type: 'string' },
        'behind-proxy': { type: 'boolean' },
        host: { type: 'string' },
        'tls-cert': { type: 'string' },
        'tls-key': { type: 'string' },
        data: { type: 'string' },
        'move-data': { type: 'boolean' },
        instruments: { type: 'string' },
        names: { type: 'string' },
        schools: { type: 'boolean' },
        clusters: { type: 'string' },
        'backup-to': { type: 'string' },
      },
    }).values;
  } catch (error) {
    throw new Error(`${(error as Error).message} ./clear-mark help lists the options.`, { cause: error });
  }
  const text = (name: string): string | null => {
    const value = values[name];
    return typeof value === 'string' ? value : null;
  };
  const port = values['port'] === undefined ? null : Number(values['port']);
  if (port !== null && !(Number.isInteger(port) && port > 0 && port < 65536)) {
    throw new Error(`--port ${text('port')} is not a port from 1 to 65535.`);
  }
  const processes = Number(text('processes') ?? '1');
  if (!(Number.isInteger(processes) && processes >= 1 && processes <= MOST_PROCESSES)) {
    throw new Error(`--processes ${text('processes')} is not a number from 1 to ${MOST_PROCESSES}.`);
  }
  return {
    port,
    processes,
    behindProxy: values['behind-proxy'] === true,
    host: text('host') ?? '127.0.0.1',
    tlsCert: text('tls-cert'),
    tlsKey: text('tls-key'),
    data: text('data'),
    moveData: values['move-data'] === true,
    instruments: text('instruments'),
    names: text('names'),
    schools: values['schools'] === true,
    clusters: text('clusters'),
    backupTo: text('backup-to'),
  };
}
