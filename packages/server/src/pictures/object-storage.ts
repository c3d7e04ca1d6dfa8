import { createHash } from 'node:crypto';
import { AwsClient } from 'aws4fetch';
import type { Logger } from 'pino';
import { AppError } from '../errors/app-error.ts';

/** Where pictures lie beside the database: a bucket of any store that speaks the S3 protocol. */
export interface StorageSettings {
  /** `https://host/bucket`, with a prefix where several schools share it. */
  readonly url: string;
  readonly key: string;
  readonly secret: string;
  readonly region: string;
}

/** Pictures by the SHA-256 of their bytes. Errors: `picture.store_away`, `picture.store_lost`. */
export interface PictureStorage {
  readonly put: (sha256: string, bytes: Buffer, mediaType: string) => Promise<void>;
  /** The bytes, held to their digest. */
  readonly get: (sha256: string) => Promise<Buffer>;
  /** No harm where it is gone already. */
  readonly remove: (sha256: string) => Promise<void>;
}

const ANSWER_MS = 10_000;
const RETRIES = 2;
const FIRST_RETRY_MS = 100;

export function objectStorage(settings: StorageSettings, log: Pick<Logger, 'warn'>): PictureStorage {
  const client = new AwsClient({
    accessKeyId: settings.key,
    secretAccessKey: settings.secret,
    region: settings.region,
    service: 's3',
    retries: RETRIES,
    initRetryMs: FIRST_RETRY_MS,
  });
  const ask = async (method: string, sha256: string, more: RequestInit = {}): Promise<Response> => {
    const address = `${settings.url.replace(/\/$/, '')}/${sha256}`;
    const signal = AbortSignal.timeout(ANSWER_MS);
    try {
      const response = await client.fetch(address, { method, redirect: 'manual', signal, ...more });
      if (response.ok || response.status === 404) return response;
      await response.body?.cancel();
      throw new Error(`it answers ${response.status}`);
    } catch (error) {
      log.warn({ err: error, method, sha256 }, 'store for pictures');
      throw new AppError('picture.store_away');
    }
  };
  return {
    put: async (sha256, bytes, mediaType) => {
      const headers = { 'Content-Type': mediaType, 'X-Amz-Content-Sha256': sha256 };
      const response = await ask('PUT', sha256, { body: new Uint8Array(bytes), headers });
      await response.body?.cancel();
      // There is no such bucket.
      if (!response.ok) throw new AppError('picture.store_away');
    },
    get: async (sha256) => {
      const response = await ask('GET', sha256);
      if (!response.ok) {
        await response.body?.cancel();
        throw new AppError('picture.store_lost');
      }
      const bytes = await response.arrayBuffer().catch(() => {
        throw new AppError('picture.store_away');
      });
      const found = Buffer.from(bytes);
      if (createHash('sha256').update(found).digest('hex') !== sha256)
        throw new AppError('picture.store_lost');
      return found;
    },
    remove: async (sha256) => {
      await (await ask('DELETE', sha256)).body?.cancel();
    },
  };
}
