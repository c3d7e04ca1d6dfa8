import { z } from 'zod';
import { isNetwork } from './networks.ts';
import type { StorageSettings } from './pictures/index.ts';

const Shape = z.object({
  DATABASE_URL: z.url({ protocol: /^postgres(ql)?$/ }),
  DATABASE_OWNER_URL: z.url({ protocol: /^postgres(ql)?$/ }).optional(),
  DATABASE_STANDBY_URL: z.url({ protocol: /^postgres(ql)?$/ }).optional(),
  CLEAR_MARK_INSTRUMENTS: z.string().default(''),
  CLEAR_MARK_SAFE_DIR: z.string().optional(),
  CLEAR_MARK_SCHOOLS: z.enum(['yes', 'no']).default('no'),
  CLEAR_MARK_CLUSTERS: z.string().optional(),
  CLEAR_MARK_HOST_NAMES: z.string().default(''),
  CLEAR_MARK_MODE: z.enum(['real', 'demo', 'test']).default('real'),
  CLEAR_MARK_HOST: z.string().min(1).default('127.0.0.1'),
  CLEAR_MARK_PORT: z.coerce.number().int().min(0).max(65535).default(0),
  CLEAR_MARK_TLS_CERT: z.string().optional(),
  CLEAR_MARK_TLS_KEY: z.string().optional(),
  CLEAR_MARK_BEHIND_PROXY: z.enum(['yes', 'no']).default('no'),
  CLEAR_MARK_MAIL_SERVER: z.url({ protocol: /^smtps?$/ }).optional(),
  CLEAR_MARK_MAIL_FROM: z.string().min(3).max(200).optional(),
  CLEAR_MARK_PICTURES_URL: z.url({ protocol: /^https?$/ }).optional(),
  CLEAR_MARK_PICTURES_KEY: z.string().min(1).optional(),
  CLEAR_MARK_PICTURES_SECRET: z.string().min(1).optional(),
  CLEAR_MARK_PICTURES_REGION: z.string().min(1).default('us-east-1'),
  // Empty is as if it were not there, by the specification of OpenTelemetry.
  OTEL_EXPORTER_OTLP_ENDPOINT: z
    .url({ protocol: /^https?$/ })
    .or(z.literal(''))
    .optional(),
  CLEAR_MARK_WEB_DIR: z.string().optional(),
  CLEAR_MARK_STAND_INS_PORT: z.coerce.number().int().min(1).max(65535).optional(),
  CLEAR_MARK_LOG_LEVEL: z.enum(['silent', 'error', 'warn', 'info', 'debug']).default('info'),
});

export interface Config {
  /** How long one statement may take, ms; the usual minute where nothing is said. */
  readonly statementMs?: number;
  /** The application's own role: it owns no table, truncates none and cannot switch a trigger off. */
  readonly databaseUrl: string;
  /** The owner's, for migrations alone; where none is given the application is the owner. */
  readonly ownerUrl?: string | null;
  /** A standby of the same database, where Insight is read while it keeps up. */
  readonly standbyUrl?: string | null;
  /** Networks in CIDR notation, or addresses, where instruments may be, beside this machine. */
  readonly instrumentNetworks?: readonly string[];
  /** Folder outside the database for the daily heads of the chains and the key that signs them. */
  readonly safeDir?: string | null;
  /** Many schools, each on a database of its own: the database is then the registry that names them. */
  readonly schools?: boolean;
  /** File that names further database clusters, for those. */
  readonly clustersFile?: string | null;
  /** Names beside the address that it listens on by which browsers may call the server. */
  readonly hostNames?: readonly string[];
  readonly mode: 'real' | 'demo' | 'test';
  readonly host: string;
  readonly port: number;
  readonly tls: { readonly certFile: string; readonly keyFile: string } | null;
  /** A proxy on this machine speaks TLS with browsers and says for whom it asks. */
  readonly behindProxy?: boolean;
  /** The school's mail server, where codes may be sent by mail. */
  readonly mail?: MailSettings | null;
  /** The store for pictures beside the database, where there is one. */
  readonly pictures?: StorageSettings | null;
  /** Collector of traces (OpenTelemetry), where there is one. */
  readonly traces?: string | null;
  readonly webDir: string | null;
  /** Port on loopback where the simulated bench of the demo takes its orders. */
  readonly standInsPort?: number | null;
  readonly logLevel: 'silent' | 'error' | 'warn' | 'info' | 'debug';
}

export interface MailSettings {
  /** `smtp://` or `smtps://`, with name and password where the server wants them. */
  readonly server: string;
  readonly from: string;
}

const LOOPBACK = new Set(['127.0.0.1', '::1', 'localhost']);
export const isLoopback = (host: string): boolean => LOOPBACK.has(host);

const listOf = (text: string): string[] => text.split(/[\s,]+/).filter((part) => part !== '');

/** Throws an Error that names the setting and the part that is no network. */
function networksOf(text: string): string[] {
  return listOf(text).map((part) => {
    if (!isNetwork(part)) {
      throw new Error(
        `Setting CLEAR_MARK_INSTRUMENTS: ${part} is no address or network, such as 192.0.2.0/24`,
      );
    }
    return part;
  });
}

/** Throws an Error where one of the three is missing, or where pictures and the key would cross a network in clear. */
function storageOf(e: z.infer<typeof Shape>): StorageSettings | null {
  const {
    CLEAR_MARK_PICTURES_URL: url,
    CLEAR_MARK_PICTURES_KEY: key,
    CLEAR_MARK_PICTURES_SECRET: secret,
  } = e;
  if (url === undefined && key === undefined && secret === undefined) return null;
  if (url === undefined || key === undefined || secret === undefined) {
    throw new Error(
      'Settings CLEAR_MARK_PICTURES_URL, CLEAR_MARK_PICTURES_KEY and CLEAR_MARK_PICTURES_SECRET: give all or none',
    );
  }
  const { protocol, hostname, pathname } = new URL(url);
  if (protocol === 'http:' && !isLoopback(hostname))
    throw new Error(`Setting CLEAR_MARK_PICTURES_URL: ${hostname} is not loopback and needs https`);
  if (pathname.length < 2) throw new Error('Setting CLEAR_MARK_PICTURES_URL: the bucket is missing');
  return { url, key, secret, region: e.CLEAR_MARK_PICTURES_REGION };
}

/**
 * The one place that reads settings. Throws an Error that names the bad key; the server then does not start.
 * Beyond loopback only with TLS: passwords and cookies would otherwise cross the room in clear.
 */
export function readConfig(environment: Readonly<Record<string, string | undefined>>): Config {
  const parsed = Shape.safeParse(environment);
  if (!parsed.success) {
    const issue = parsed.error.issues[0]!;
    throw new Error(`Setting ${issue.path.join('.')}: ${issue.message}`);
  }
  const e = parsed.data;
  if ((e.CLEAR_MARK_TLS_CERT === undefined) !== (e.CLEAR_MARK_TLS_KEY === undefined)) {
    throw new Error('Settings CLEAR_MARK_TLS_CERT and CLEAR_MARK_TLS_KEY: give both or neither');
  }
  const tls =
    e.CLEAR_MARK_TLS_CERT !== undefined && e.CLEAR_MARK_TLS_KEY !== undefined
      ? { certFile: e.CLEAR_MARK_TLS_CERT, keyFile: e.CLEAR_MARK_TLS_KEY }
      : null;
  const { CLEAR_MARK_MAIL_SERVER: mailServer, CLEAR_MARK_MAIL_FROM: mailFrom } = e;
  if ((mailServer === undefined) !== (mailFrom === undefined)) {
    throw new Error('Settings CLEAR_MARK_MAIL_SERVER and CLEAR_MARK_MAIL_FROM: give both or neither');
  }
  if (!isLoopback(e.CLEAR_MARK_HOST) && !tls) {
    throw new Error(`Setting CLEAR_MARK_HOST: ${e.CLEAR_MARK_HOST} is not loopback and needs TLS`);
  }
  if (e.CLEAR_MARK_BEHIND_PROXY === 'yes' && !isLoopback(e.CLEAR_MARK_HOST)) {
    throw new Error(
      'Setting CLEAR_MARK_BEHIND_PROXY: the proxy is on this machine, so the server listens on loopback',
    );
  }
  if (e.CLEAR_MARK_STAND_INS_PORT !== undefined && e.CLEAR_MARK_MODE === 'real') {
    throw new Error('Setting CLEAR_MARK_STAND_INS_PORT: simulated instruments are for the demo only');
  }
  if (e.CLEAR_MARK_MODE === 'demo' && !isLoopback(e.CLEAR_MARK_HOST)) {
    throw new Error('Setting CLEAR_MARK_HOST: the demo runs on loopback only');
  }
  return {
    databaseUrl: e.DATABASE_URL,
    ownerUrl: e.DATABASE_OWNER_URL ?? null,
    standbyUrl: e.DATABASE_STANDBY_URL ?? null,
    instrumentNetworks: networksOf(e.CLEAR_MARK_INSTRUMENTS),
    safeDir: e.CLEAR_MARK_SAFE_DIR ?? null,
    schools: e.CLEAR_MARK_SCHOOLS === 'yes',
    clustersFile: e.CLEAR_MARK_CLUSTERS ?? null,
    hostNames: listOf(e.CLEAR_MARK_HOST_NAMES),
    mode: e.CLEAR_MARK_MODE,
    host: e.CLEAR_MARK_HOST,
    port: e.CLEAR_MARK_PORT,
    tls,
    behindProxy: e.CLEAR_MARK_BEHIND_PROXY === 'yes',
    mail: mailServer !== undefined && mailFrom !== undefined ? { server: mailServer, from: mailFrom } : null,
    pictures: storageOf(e),
    traces: e.OTEL_EXPORTER_OTLP_ENDPOINT || null,
    webDir: e.CLEAR_MARK_WEB_DIR ?? null,
    standInsPort: e.CLEAR_MARK_STAND_INS_PORT ?? null,
    logLevel: e.CLEAR_MARK_LOG_LEVEL,
  };
}
