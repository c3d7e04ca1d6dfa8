import type { Hazard } from '@clear-mark/core';

/** Port Merrow and everyone in it are made up. */
export const SCENARIO = {
  className: 'Harbour Ring crew 3',
  place: 'Saltmarsh Hall, Port Merrow',
  timeZone: 'Europe/Lisbon',
  lead: { name: 'Wilhelmina Tarrow', login: 'tarrow' },
  instructors: [
    { name: 'Osric Bellamont', login: 'bellamont' },
    { name: 'Nkeiru Havelind', login: 'havelind' },
  ],
  trainees: [
    'Anouk Derrey',
    'Bastian Holloweg',
    'Cora Whitlace',
    'Dorji Penmarch',
    'Elif Sandover',
    'Fausto Merrigan',
    'Greet Vanhollen',
    'Hamza Quillfeather',
    'Idris Vanmeer',
    'Jonna Pellworth',
    'Kwabena Ostrey',
    'Lene Kastbury',
    'Marit Solvane',
    'Nils Abernook',
    'Oyelaran Tidewell',
    'Petra Lindqvale',
  ],
  cleavers: ['Cleaver 1', 'Cleaver 2', 'Cleaver 3', 'Cleaver 4'],
  scopes: ['Scope A', 'Scope B', 'Scope C'],
  instruments: ['Meter 1', 'Meter 2', 'Meter 3'],
  cords: ['Launch cord A', 'Launch cord B', 'Launch cord C'],
} as const;

/** What the class chose of the practice options: in training every cleave goes under the scope. */
export const PRACTICE = { 'inspect-cleaves': 'scope' } as const;

/** What an instructor should be able to find in the demo's results. Indexes into the lists above. */
export const STORIES = {
  bluntCleaver: 2,
  forgetsBoot: 5,
  stuckOnCleaving: 10,
  readyEarly: 12,
  badReferenceDay: 12,
  badReferenceInstrument: 1,
  /** The trainee who calls dirty faces good and good ones dirty, this often. */
  callsFacesWrong: 1,
  misjudges: 0.42,
  /** Whose bench cleaves were stopped, for shards on the bench. */
  stopped: 6,
} as const;

/** The splicing days before, at the same hall. */
export const SPLICING = {
  className: 'Harbour Ring crew 2, splicing',
  place: SCENARIO.place,
  timeZone: SCENARIO.timeZone,
  instructor: { name: 'Odalys Brandreth', login: 'brandreth' },
  trainees: [
    'Quirin Maddock',
    'Ragna Averill',
    'Sunniva Eskdale',
    'Tobiah Farrow',
    'Ulla Brackwater',
    'Viggo Thornby',
  ],
  splicers: ['Splicer A', 'Splicer B', 'Splicer C'],
  cleavers: ['Cleaver 5', 'Cleaver 6'],
  meter: 'Meter 4',
  /** Index of the splicer whose electrodes are worn, and what that costs a joint, dB. */
  wornSplicer: 1,
  wornDb: 0.06,
  /** Index of the trainee who takes no care on the left side. */
  carelessLeft: 3,
} as const;

/** An afternoon on which everybody makes a few pieces by another method. */
export interface MethodSession {
  /** The last part of the method's id. */
  readonly method: string;
  /** Working day of the course from 0, and hour on the wall. */
  readonly day: number;
  readonly hour: number;
  readonly pieces: number;
  /** In the labels of its pieces. */
  readonly mark: string;
  /** What one piece is stopped for. */
  readonly stop?: Hazard;
}

/** What crew 3 does beside its connectors. */
export const SESSIONS: readonly MethodSession[] = [
  { method: 'bench-cleave', day: 1, hour: 16, pieces: 2, mark: 'C', stop: 'shards' },
  { method: 'acrylic-primer', day: 4, hour: 16, pieces: 1, mark: 'A' },
  { method: 'single-fusion', day: 12, hour: 16, pieces: 4, mark: 'F' },
  { method: 'inspect-single', day: 9, hour: 16, pieces: 2, mark: 'E' },
  { method: 'loss-two-cord-sm', day: 11, hour: 16, pieces: 1, mark: 'L' },
  { method: 'mpo-trunk', day: 14, hour: 16, pieces: 1, mark: 'M' },
];
/** What crew 2 does on its two days beside its trays. */
export const SPLICING_SESSIONS: readonly MethodSession[] = [
  { method: 'bench-cleave', day: 0, hour: 14, pieces: 2, mark: 'C' },
  { method: 'inspect-single', day: 0, hour: 16, pieces: 2, mark: 'E' },
  { method: 'ribbon-splice', day: 1, hour: 14, pieces: 1, mark: 'R' },
  { method: 'loss-one-cord', day: 1, hour: 16, pieces: 1, mark: 'L' },
];

/** Instruments of crew 3 that answer over the network in the demo. */
export const BENCH_INSTRUMENTS = {
  meter: 'Meter 1',
  source: 'Light source 1',
  ports: 'Port light 1',
  splicer: 'Splicer 1',
  otdr: 'OTDR unit 1',
} as const;
