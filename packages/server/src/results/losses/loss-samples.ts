import { type CountedSample, describeLossCounts, histogram } from '@clear-mark/core';
import type { LossSample } from '@clear-mark/contract';
import type { Database } from '../../database/database.ts';
import type { Sql } from '../../database/sql.ts';
import type { Labels } from '../labels.ts';
import { type LossRow, lossesStore } from './losses.store.ts';

/** Width of a bar of the loss histogram. */
const LOSS_BIN_DB = 0.05;

const VALUE_BYTES = 12;

/** The losses of a row: its values from the lowest on, and how often each was read. */
export function lossesOf({ losses }: LossRow): CountedSample {
  const n = (losses?.length ?? 0) / VALUE_BYTES;
  return {
    values: Float64Array.from({ length: n }, (_, i) => losses!.readDoubleBE(i * VALUE_BYTES)),
    counts: Int32Array.from({ length: n }, (_, i) => losses!.readInt32BE(i * VALUE_BYTES + 8)),
  };
}

/** Each sample of losses described, with its histogram; a sample without a loss is left out. */
export async function lossSamples(db: Database, where: Sql, labels: Labels): Promise<LossSample[]> {
  return (await lossesStore(db).samples(where)).flatMap((row) => lossSample(row, labels));
}

function lossSample(row: LossRow, labels: Labels): LossSample[] {
  const losses = lossesOf(row);
  const summary = describeLossCounts(losses, row.limitDb);
  const bars = histogram(losses.values, LOSS_BIN_DB, losses.counts);
  if (!summary || !bars) return [];
  return [
    {
      methodId: row.methodId,
      methodTitle: labels.methods.get(row.methodId) ?? row.methodId,
      referenceMethod: row.referenceMethod,
      fiberClass: row.fiberClass,
      wavelengthNm: row.wavelengthNm,
      direction: row.direction,
      limitDb: row.limitDb,
      expectedDb: row.expectedDb,
      summary,
      histogram: { ...bars, counts: [...bars.counts] },
      voidReadings: row.voids,
    },
  ];
}
