import { bothDirections, type Direction, GLASS_INDEX, jointLoss } from '@clear-mark/core';
import { normal, type Rng } from './rng.ts';

export interface CleavedEnd {
  readonly angleDeg: number;
  readonly face: 'mirror' | 'lip' | 'chip';
}
export interface SplicedJoint {
  /** True loss from either side at 1310 nm, dB; a step of the mode field makes them differ. */
  readonly lossDb: Readonly<Record<Direction, number>>;
  /** What a splicer reads from the picture, dB. */
  readonly estimateDb: number;
  readonly holds: boolean;
}

/**
 * The one piece that lies on a bench and that every instrument there sees: two fibers, perhaps spliced, with a connector
 * at each end, cords that lead to source and meter, and for a multi-fiber link the far port of each near one.
 */
export interface BenchPiece {
  readonly lengthM: number;
  readonly left: CleavedEnd;
  readonly right: CleavedEnd;
  readonly joint: SplicedJoint | null;
  /** Dirt on the faces: 0 clean to 1 hopeless. */
  readonly dirt: Readonly<Record<'near' | 'far', number>>;
  /** Loss of the two end connections when clean, dB. */
  readonly connectionDb: readonly [number, number];
  /** Radius of the tightest bend, mm. */
  readonly bendMm: number;
  /** Loss by which the launch connection has changed since it was mated, dB; a touched cord changes it. */
  readonly launchDb: number;
  readonly connected: 'reference' | 'link' | 'nothing';
  /** Far port of each near one, 0 dark. */
  readonly ports: readonly number[];
  /** Loss of each fiber beyond the first one's, dB. */
  readonly spreadDb: readonly number[];
}

/** How well a step is done: 0 careless to 1 careful. */
export type Care = number;

export type BenchAct =
  | { readonly act: 'cleave'; readonly side: 'left' | 'right'; readonly care: Care }
  | { readonly act: 'fuse' }
  | { readonly act: 'clean' | 'touch'; readonly end: 'near' | 'far' }
  | { readonly act: 'connect'; readonly to: BenchPiece['connected'] }
  | { readonly act: 'disturb'; readonly db: number }
  | { readonly act: 'bend'; readonly radiusMm: number }
  | { readonly act: 'ports'; readonly far: readonly number[] };

const FIELD_RADIUS_UM: Readonly<Record<number, number>> = { 1310: 4.6, 1550: 5.2, 1625: 5.35 };
const FIBER_DB_PER_KM: Readonly<Record<number, number>> = { 850: 2.5, 1300: 0.7, 1310: 0.34, 1550: 0.21 };
/** Power at the end of a reference cord, dBm, by wavelength. */
const SOURCE_DBM: Readonly<Record<number, number>> = { 850: -20, 1300: -20, 1310: -5, 1550: -5.5 };
/** A bend of this radius starts to cost, mm; the longer wavelength sits less tightly in the core. */
const BEND_STARTS_MM: Readonly<Record<number, number>> = { 1310: 11, 1550: 15, 1625: 17 };

/** A sound piece with clean faces, spliced by nobody yet. */
export function newBenchPiece(rng: Rng, fibers = 12): BenchPiece {
  return {
    lengthM: 200,
    left: { angleDeg: 0.4, face: 'mirror' },
    right: { angleDeg: 0.4, face: 'mirror' },
    joint: null,
    dirt: { near: 0, far: 0 },
    connectionDb: [0.16 + 0.1 * rng(), 0.16 + 0.1 * rng()],
    bendMm: 60,
    launchDb: 0,
    connected: 'nothing',
    ports: Array.from({ length: fibers }, (_, i) => i + 1),
    spreadDb: Array.from({ length: fibers }, (_, i) => (i === 0 ? 0 : Math.abs(normal(rng, 0, 0.06)))),
  };
}

/** What an act makes of the piece; the piece before stays as it is. */
export function actOn(piece: BenchPiece, act: BenchAct, rng: Rng): BenchPiece {
  switch (act.act) {
    case 'cleave':
      return { ...piece, joint: null, [act.side]: cleave(act.care, rng) };
    case 'fuse':
      return { ...piece, joint: fuse(piece, rng) };
    case 'clean':
      return { ...piece, dirt: { ...piece.dirt, [act.end]: 0 } };
    case 'touch':
      return { ...piece, dirt: { ...piece.dirt, [act.end]: 0.5 + 0.5 * rng() } };
    case 'connect':
      return { ...piece, connected: act.to };
    case 'disturb':
      return { ...piece, launchDb: piece.launchDb + act.db };
    case 'bend':
      return { ...piece, bendMm: act.radiusMm };
    case 'ports':
      return { ...piece, ports: act.far };
    default: {
      const never: never = act;
      return never;
    }
  }
}

function cleave(care: Care, rng: Rng): CleavedEnd {
  const angleDeg = (0.25 + 2.2 * (1 - care)) * Math.exp(normal(rng, 0, 0.3));
  const rough = rng() < 0.5 * (1 - care);
  return { angleDeg, face: rough ? (rng() < 0.5 ? 'lip' : 'chip') : 'mirror' };
}

/** Bad angles and faces push the cores aside while the glass is soft; the physics of the joint then gives the loss. */
function fuse(piece: BenchPiece, rng: Rng): SplicedJoint {
  const ends = [piece.left, piece.right];
  const rough = ends.filter((e) => e.face !== 'mirror').length;
  const angles = piece.left.angleDeg + piece.right.angleDeg;
  const joint = {
    fromRadiusUm: 4.6,
    intoRadiusUm: 4.6 + normal(rng, 0, 0.08),
    offsetUm: 0.12 + Math.abs(normal(rng, 0, 0.1)) + 0.18 * angles + 0.5 * rough,
    tiltDeg: 0.12 * angles,
    index: GLASS_INDEX,
    wavelengthNm: 1310,
  };
  const { lossDb } = jointLoss(joint);
  // Scattering from either side differs with the field: a step that adds one way and takes off the other.
  const step = 4.34 * Math.log(joint.intoRadiusUm / joint.fromRadiusUm) * 2;
  return {
    lossDb: { a_b: lossDb + step, b_a: lossDb - step },
    estimateDb: Math.max(0, Math.round((lossDb + normal(rng, 0, 0.008)) * 100) / 100),
    holds: rough === 0 || rng() > 0.35 * rough,
  };
}

/**
 * Loss between source and meter, dB, at a wavelength from one direction through one fiber (counted from 1), or null
 * without light. In the reference position only what has changed at the launch is lost.
 */
export function lossOf(
  piece: BenchPiece,
  wavelengthNm: number,
  direction: Direction = 'a_b',
  fiber = 1,
): number | null {
  if (piece.connected === 'nothing') return null;
  if (piece.connected === 'reference') return piece.launchDb;
  if (piece.ports[fiber - 1] === 0) return null;
  const dirtDb = connectionDirtDb(piece, 'near') + connectionDirtDb(piece, 'far');
  const [first, second] = piece.connectionDb;
  const fiberDb = (piece.lengthM / 1000) * (FIBER_DB_PER_KM[wavelengthNm] ?? 0.35);
  const bendDb = bendLossDb(piece, wavelengthNm);
  return (
    piece.launchDb +
    first +
    second +
    dirtDb +
    fiberDb +
    bendDb +
    jointAt(piece, wavelengthNm, direction) +
    (piece.spreadDb[fiber - 1] ?? 0)
  );
}

/** What dirt on a face adds to its connection, dB. */
export const connectionDirtDb = ({ dirt }: BenchPiece, end: 'near' | 'far'): number => 1.6 * dirt[end] ** 2;

/** What the tightest bend loses, dB. */
export function bendLossDb({ bendMm }: BenchPiece, wavelengthNm: number): number {
  const starts = BEND_STARTS_MM[wavelengthNm] ?? 8;
  return bendMm < starts ? 1.1 * Math.exp((starts - bendMm) / 4) - 1 : 0;
}

/** In the reading through the whole link it is the true loss that counts, the mean of both sides. */
function jointAt(piece: BenchPiece, wavelengthNm: number, _direction: Direction): number {
  return piece.joint ? spliceLossDb(piece.joint, wavelengthNm) : 0;
}

/** What a splice loses at a wavelength, dB: the mean of both sides. */
export function spliceLossDb(joint: SplicedJoint, wavelengthNm: number): number {
  const both = bothDirections(joint.lossDb.a_b, joint.lossDb.b_a);
  const loss = both.state === 'complete' ? both.lossDb : 0;
  // The same offset costs less in a wider field.
  return loss * (FIELD_RADIUS_UM[1310]! / (FIELD_RADIUS_UM[wavelengthNm] ?? 4.6)) ** 2;
}

/** Level at the meter, dBm, or null for darkness. `driftDb` is what the source has wandered by. */
export function levelOf(
  piece: BenchPiece,
  wavelengthNm: number,
  driftDb: number,
  direction: Direction = 'a_b',
  fiber = 1,
): number | null {
  const loss = lossOf(piece, wavelengthNm, direction, fiber);
  const source = SOURCE_DBM[wavelengthNm];
  return loss === null || source === undefined ? null : source + driftDb - loss;
}
