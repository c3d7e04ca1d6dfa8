import type { Direction } from '@clear-mark/core';
import { type BenchPiece, bendLossDb, connectionDirtDb, spliceLossDb } from './bench-piece.ts';
import type { OtdrSettings, Plant, PlantEvent } from './otdr-trace.ts';

/** How an OTDR stands before the piece: at which end, and with which cords. */
export interface OtdrCords {
  readonly end: 'near' | 'far';
  readonly launchM: number;
  readonly receiveM: number;
}
/** What is set on it. */
export interface OtdrSetting {
  readonly wavelengthNm: number;
  readonly pulseNs: number;
  readonly rangeM: number;
  readonly averages: number;
  readonly groupIndex: number;
}

/** Of a polished connector, of a dirty one, and of an end in air (common practice). */
const CLEAN_DB = -52;
const DIRTY_DB = -38;
const OPEN_END_DB = -14.5;
const PORT_DB = -50;
const DB_PER_KM: Readonly<Record<number, number>> = {
  850: 2.5,
  1300: 0.7,
  1310: 0.34,
  1550: 0.21,
  1625: 0.23,
};
const BACKSCATTER_DB: Readonly<Record<number, number>> = {
  850: -66,
  1300: -73,
  1310: -79.5,
  1550: -82,
  1625: -82.5,
};
/** Where the splice lies on the piece, and where it is bent when it is: parts of its length. */
const SPLICE_AT = 0.5;
const BEND_AT = 0.75;

/** The bench's one piece as an OTDR meets it: cords, connectors, splice and bend; the cords alone where the piece is not in between. */
export function plantOfBench(
  piece: BenchPiece,
  cords: OtdrCords,
  wavelengthNm: number,
  fiber: number,
): Plant {
  const { launchM, receiveM, end } = cords;
  const base = {
    portReflectanceDb: PORT_DB,
    dbPerKm: DB_PER_KM[wavelengthNm] ?? 0.35,
    endReflectanceDb: OPEN_END_DB,
    backscatterSteps: [],
  };
  const dark = piece.connected === 'link' && piece.ports[fiber - 1] === 0;
  if (piece.connected === 'nothing' || dark || launchM <= 0) {
    return { ...base, events: [], endM: Math.max(launchM, 1) };
  }
  const connector = (side: 'near' | 'far', positionM: number, more: number): PlantEvent => ({
    positionM,
    lossDb: piece.connectionDb[side === 'near' ? 0 : 1] + connectionDirtDb(piece, side) + more,
    reflectanceDb: piece.dirt[side] > 0 ? DIRTY_DB : CLEAN_DB,
  });
  if (piece.connected === 'reference') {
    return { ...base, events: [connector('near', launchM, piece.launchDb)], endM: launchM + receiveM };
  }
  const forth = end === 'near';
  const place = (share: number): number => launchM + piece.lengthM * (forth ? share : 1 - share);
  const [first, last] = forth ? (['near', 'far'] as const) : (['far', 'near'] as const);
  const spread = piece.spreadDb[fiber - 1] ?? 0;
  const events = [connector(first, launchM, piece.launchDb)];
  const steps: { fromM: number; offsetDb: number }[] = [];
  if (piece.joint) {
    const lossDb = spliceLossDb(piece.joint, wavelengthNm);
    events.push({ positionM: place(SPLICE_AT), lossDb, reflectanceDb: null });
    steps.push({ fromM: place(SPLICE_AT), offsetDb: apparentStep(piece, forth ? 'a_b' : 'b_a') });
  }
  const bend = bendLossDb(piece, wavelengthNm);
  if (bend > 0) events.push({ positionM: place(BEND_AT), lossDb: bend, reflectanceDb: null });
  // A receive cord that is not there leaves an open end, and the connector in it.
  const endM = launchM + piece.lengthM + receiveM;
  if (receiveM > 0) events.push(connector(last, launchM + piece.lengthM, spread));
  return {
    ...base,
    events: events.sort((a, b) => a.positionM - b.positionM),
    endM,
    backscatterSteps: steps,
  };
}

/** What the splice seems to gain from this side beside what it loses. */
function apparentStep({ joint }: BenchPiece, direction: Direction): number {
  if (!joint) return 0;
  const { a_b: forth, b_a: back } = joint.lossDb;
  return (direction === 'a_b' ? back - forth : forth - back) / 2;
}

const POINTS_WANTED = 20_000;
const FINEST_M = 0.0625;
/** Deviation of a point's noise at this many averages, dB against the light that is sent out. */
const NOISE_DB = -98;
const NOISE_AVERAGES = 65_536;

/** The meter as it is set: points over the range, noise by averages. */
export function otdrSettings({
  wavelengthNm,
  pulseNs,
  rangeM,
  averages,
  groupIndex,
}: OtdrSetting): OtdrSettings {
  const spacingM = Math.max(FINEST_M, rangeM / POINTS_WANTED);
  return {
    wavelengthNm,
    pulseNs,
    groupIndex,
    averages,
    spacingM,
    points: Math.max(64, Math.floor(rangeM / spacingM)),
    backscatterDb: BACKSCATTER_DB[wavelengthNm] ?? -80,
    receiverNs: Math.max(2.4, pulseNs / 12),
    // Of twice as many averages the mean is less noisy by a factor of the root of two.
    noiseDb: NOISE_DB - 5 * Math.log10(averages / NOISE_AVERAGES),
  };
}
