import { workerData } from 'node:worker_threads';
import { openDatabase } from '../database/database.ts';
import { type BatchOrder, setBatch } from './set-batch.ts';

const { databaseUrl, order } = workerData as { databaseUrl: string; order: BatchOrder };
const db = openDatabase(databaseUrl, 2);
try {
  await setBatch(db, order);
} finally {
  await db.destroy();
}
