import { normal, type Rng, rngFrom } from '@clear-mark/sim';

/** A school by what it does; the figures of the demo where nothing else is known. */
export interface SchoolModel {
  readonly classesAtOnce: number;
  readonly traineesAClass: number;
  readonly weeksAYear: number;
  readonly piecesATraineeDay: number;
  readonly entriesAPiece: number;
  readonly minutesAPiece: number;
  readonly dayMinutes: number;
  /** Bytes of a piece with everything that hangs on it, indexes too, and of its pictures. */
  readonly bytesAPiece: number;
  readonly pictureBytesAPiece: number;
}

/** What was counted in the demo class: 840 pieces of 16 trainees on 25 days, 35 entries and 37 kB a piece. */
export const DEMO_SCHOOL: SchoolModel = {
  classesAtOnce: 2,
  traineesAClass: 16,
  weeksAYear: 40,
  piecesATraineeDay: 2.1,
  entriesAPiece: 35,
  minutesAPiece: 25,
  dayMinutes: 360,
  bytesAPiece: 37_000,
  pictureBytesAPiece: 40_000,
};

export interface Year {
  readonly schools: number;
  readonly pieces: number;
  readonly entries: number;
  readonly bytes: number;
  readonly pictureBytes: number;
  /** Entries a second in the fullest ten seconds of a day on which all schools work at once. */
  readonly peakPerSecond: number;
}

const DAYS_A_WEEK = 5;
const BIN_S = 10;

/**
 * Draws a day of so many schools, entry by entry, and makes a year of it. The day is the same for all, so the peak is the worst one;
 * `zoneHours` spreads the schools over time zones.
 */
export function simulateYear(model: SchoolModel, schools: number, seed: number, zoneHours = 0): Year {
  const rng = rngFrom(seed);
  const bins = new Float64Array(Math.ceil(((model.dayMinutes + zoneHours * 60 + 120) * 60) / BIN_S));
  let pieces = 0;
  let entries = 0;
  for (let s = 0; s < schools; s++) {
    const shift = Math.floor(rng() * (zoneHours + 1)) * 60;
    const trainees = model.classesAtOnce * model.traineesAClass;
    for (let t = 0; t < trainees; t++) {
      for (let p = poisson(rng, model.piecesATraineeDay); p > 0; p--) {
        pieces += 1;
        entries += drawPiece(rng, model, shift, bins);
      }
    }
  }
  const days = model.weeksAYear * DAYS_A_WEEK;
  return {
    schools,
    pieces: pieces * days,
    entries: entries * days,
    bytes: pieces * days * model.bytesAPiece,
    pictureBytes: pieces * days * model.pictureBytesAPiece,
    peakPerSecond: bins.reduce((most, n) => Math.max(most, n), 0) / BIN_S,
  };
}

/** Adds the entries of one piece to the day; gives how many they are. */
function drawPiece(rng: Rng, model: SchoolModel, shiftMin: number, bins: Float64Array): number {
  const startMin = shiftMin + rng() * (model.dayMinutes - model.minutesAPiece);
  const minutes = Math.max(5, normal(rng, model.minutesAPiece, model.minutesAPiece / 4));
  for (let e = 0; e < model.entriesAPiece; e++) {
    const bin = Math.floor(((startMin + rng() * minutes) * 60) / BIN_S);
    bins[Math.min(bin, bins.length - 1)]! += 1;
  }
  return model.entriesAPiece;
}

/** Knuth's way, for small means. */
function poisson(rng: Rng, mean: number): number {
  const least = Math.exp(-mean);
  let n = 0;
  for (let product = rng(); product > least; product *= rng()) n += 1;
  return n;
}
