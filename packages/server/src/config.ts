import { z } from 'zod';

const Shape = z.object({
  DATABASE_URL: z.url({ protocol: /^postgres(ql)?$/ }),
  CLEAR_MARK_MODE: z.enum(['real', 'demo', 'test']).default('real'),
  CLEAR_MARK_HOST: z.string().min(1).default('127.0.0.1'),
  CLEAR_MARK_PORT: z.coerce.number().int().min(0).max(65535).default(0),
  CLEAR_MARK_TLS_CERT: z.string().optional(),
  CLEAR_MARK_TLS_KEY: z.string().optional(),
  CLEAR_MARK_WEB_DIR: z.string().optional(),
  CLEAR_MARK_STAND_INS_PORT: z.coerce.number().int().min(1).max(65535).optional(),
  CLEAR_MARK_LOG_LEVEL: z.enum(['silent', 'error', 'warn', 'info', 'debug']).default('info'),
});

export interface Config {
  readonly databaseUrl: string;
  readonly mode: 'real' | 'demo' | 'test';
  readonly host: string;
  readonly port: number;
  readonly tls: { readonly certFile: string; readonly keyFile: string } | null;
  readonly webDir: string | null;
  /** Port on loopback where the simulated bench of the demo takes its orders. */
  readonly standInsPort?: number | null;
  readonly logLevel: 'silent' | 'error' | 'warn' | 'info' | 'debug';
}

const LOOPBACK = new Set(['127.0.0.1', '::1', 'localhost']);
export const isLoopback = (host: string): boolean => LOOPBACK.has(host);

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
  if (!isLoopback(e.CLEAR_MARK_HOST) && !tls) {
    throw new Error(`Setting CLEAR_MARK_HOST: ${e.CLEAR_MARK_HOST} is not loopback and needs TLS`);
  }
  if (e.CLEAR_MARK_STAND_INS_PORT !== undefined && e.CLEAR_MARK_MODE === 'real') {
    throw new Error('Setting CLEAR_MARK_STAND_INS_PORT: simulated instruments are for the demo only');
  }
  if (e.CLEAR_MARK_MODE === 'demo' && !isLoopback(e.CLEAR_MARK_HOST)) {
    throw new Error('Setting CLEAR_MARK_HOST: the demo runs on loopback only');
  }
  return {
    databaseUrl: e.DATABASE_URL,
    mode: e.CLEAR_MARK_MODE,
    host: e.CLEAR_MARK_HOST,
    port: e.CLEAR_MARK_PORT,
    tls,
    webDir: e.CLEAR_MARK_WEB_DIR ?? null,
    standInsPort: e.CLEAR_MARK_STAND_INS_PORT ?? null,
    logLevel: e.CLEAR_MARK_LOG_LEVEL,
  };
}
