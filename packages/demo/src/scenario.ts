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
  splicers: ['Splicer A', 'Splicer B'],
  cleavers: ['Cleaver 5', 'Cleaver 6'],
  /** Index of the trainee who takes no care on the left side. */
  carelessLeft: 3,
} as const;

/** Instruments of crew 3 that answer over the network in the demo. */
export const BENCH_INSTRUMENTS = {
  meter: 'Meter 1',
  source: 'Light source 1',
  ports: 'Port light 1',
  splicer: 'Splicer 1',
} as const;
