import { workerData } from 'node:worker_threads';
import { openDatabase } from '../database/database.ts';
import { type JobOrder, runJob } from './run-job.ts';

const { databaseUrl, order } = workerData as { databaseUrl: string; order: JobOrder };
const db = openDatabase(databaseUrl, 2);
try {
  await runJob(db, order);
} finally {
  await db.destroy();
}
