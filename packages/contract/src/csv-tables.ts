import { SKILLS } from '@clear-mark/core';
import { z } from 'zod';
import { AttemptListFilter } from './results.ts';

export interface CsvTable {
  /** What a line is. */
  readonly line: string;
  /** In order: the heading and what stands under it. */
  readonly columns: readonly (readonly [name: string, about: string])[];
}

const PIECE = [
  ['attempt', 'id of the scored piece; the same in every table'],
  ['started', 'when the piece was begun, in the time zone of the class, without its offset'],
  ['trainee', 'name'],
  ['piece', 'label'],
] as const;

/** The tables of a class that are taken out as CSV (RFC 4180). The document and the heads of the files are made from this. */
export const CSV_TABLES = {
  attempts: {
    line: 'a signed piece, by its newest record',
    columns: [
      ...PIECE,
      ['method', 'id of the method'],
      ['version', 'version of the method'],
      ['verdict', 'of the whole piece: pass, fail, void or incomplete'],
      ...SKILLS.map(
        (skill) => [skill, `verdict in ${skill}; empty where the method does not judge it`] as const,
      ),
      ['loss_1310_db', 'the larger loss at 1310 nm, dB'],
      ['loss_1550_db', 'the larger loss at 1550 nm, dB'],
      ['limit_db', 'the limit that it was held to, dB'],
      ['bench', 'label'],
      ['cleaver', 'label'],
      ['scope', 'label'],
      ['instrument', 'label'],
      ['cord', 'label'],
      ['signed_as', 'signed, signed_incomplete, void or amended'],
      ['signed_by', 'name'],
      ['reason', 'why it is incomplete, void or amended'],
      ['own_skills', 'verdicts in skills of the school’s own, in one field'],
    ],
  },
  outcomes: {
    line: 'a criterion of a signed piece',
    columns: [
      ...PIECE,
      ['criterion', 'id'],
      ['label', 'of the criterion'],
      ['step', 'title'],
      ['skill', 'that it counts for'],
      ['verdict', 'pass, fail, void, not seen or open'],
      ['points', 'possible'],
      ['earned', 'points'],
      ['value', 'as a number in the unit of the criterion, where it has one'],
      ['faults', 'ids, with spaces between'],
    ],
  },
  entries: {
    line: 'an entry of a signed piece, as it was made; those that were taken back stand there too',
    columns: [
      ...PIECE,
      ['entry', 'id'],
      ['number', 'place among the entries of the piece'],
      ['kind', 'value, not_seen, void, note, retract, charge, dismiss, hand, timer or stop'],
      ['criterion', 'id; empty for a note on the whole piece'],
      ['part', 'wavelength, direction or fiber that it is of'],
      ['value', 'as it was typed; pass or fail for a check; a number of seconds or mm:ss for a time'],
      ['unit', 'of the value'],
      ['note', 'text'],
      ['by', 'name of who made it'],
      ['capacity', 'instructor, witness or trainee'],
      ['source', 'typed, timer, instrument, picture or computed'],
      ['at', 'when it was made, UTC'],
      ['supersedes', 'ids of the entries that it stands in place of, with spaces between'],
      ['takes_back', 'id of the entry that it takes back'],
    ],
  },
  readings: {
    line: 'a reading of a meter in a signed piece',
    columns: [
      ...PIECE,
      ['entry', 'id'],
      ['wavelength_nm', 'nm'],
      ['direction', 'a_b or b_a, where the method asks for it'],
      ['fiber', 'number, where there are several'],
      ['value', 'as the meter gave it'],
      ['unit', 'dB or dBm'],
      ['no_light', 'yes where no light came through'],
      ['reference', 'id of the reference that it was read against'],
      ['reference_method', 'how the reference was set'],
      ['reference_dbm', 'dBm, as it was read again last'],
      ['instrument', 'label'],
      ['taken_at', 'when the instrument took it, UTC; empty where it was typed'],
      ['calibrated_on', 'day of the instrument’s calibration then'],
    ],
  },
  standings: {
    line: 'a trainee in a skill, as it stands when the file is made',
    columns: [
      ['trainee', 'name'],
      ['skill', 'id'],
      ['standing', 'not_tried, in_training, competent, lapsed or needs_retraining'],
      ['passed', 'outcomes that passed'],
      ['of', 'outcomes with a verdict'],
      ['share', '0 to 1'],
      ['low', 'lower end of its 95 % interval'],
      ['high', 'upper end of its 95 % interval'],
      ['last_outcomes', 'P passed, F failed, the newest last'],
      ['behind', 'the criterion that cost most in the last failures'],
    ],
  },
  stock: {
    line: 'a piece of equipment',
    columns: [
      ['thing', 'id'],
      ['kind', 'of equipment'],
      ['label', 'of it'],
      ['in_use', 'yes or no'],
      ['pieces', 'that were made with it'],
      ['last_used', 'when the last of them was begun, in the time zone of the class'],
      ['checked_on', 'day of the last check, of a test cord'],
      ['check_due_on', 'day by which it is checked again'],
      ['check_loss_db', 'dB'],
      ['calibrated_on', 'day, of an instrument on the network'],
      ['calibration_due_on', 'day'],
    ],
  },
} as const satisfies Readonly<Record<string, CsvTable>>;

export type CsvTableName = keyof typeof CSV_TABLES;
export const CSV_TABLE_NAMES = Object.keys(CSV_TABLES) as readonly CsvTableName[];

/** CSV downloads: plain paths, since a browser fetches them as links. */
export const CSV_PATHS = Object.fromEntries(
  CSV_TABLE_NAMES.map((name) => [name, `/api/classes/:id/${name}.csv`]),
) as Readonly<Record<CsvTableName, string>>;

/** How numbers are written: with a point, and commas between columns; or with a comma, and semicolons between columns. */
export const DECIMALS = ['point', 'comma'] as const;
export type DecimalMark = (typeof DECIMALS)[number];
export const CsvQuery = AttemptListFilter.extend({ decimal: z.enum(DECIMALS).default('point') });
