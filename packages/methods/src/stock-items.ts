import type { CureOfMethod, ThingKind } from '@clear-mark/core';

/** Something that a class uses up, as a school keeps it. */
export interface StockItem {
  readonly id: string;
  readonly label: string;
  /** Under which kind of equipment its lots stand. */
  readonly kind: Extract<ThingKind, 'film' | 'batch' | 'supply'>;
  /** What one use of it is called. */
  readonly unit: string;
  /** Uses in a pack as it is bought. */
  readonly pack: number;
  /** Days that it is good once opened; null where nobody says so. */
  readonly openedDays: number | null;
  readonly source: string;
}

const supply = (id: string, label: string, pack: number, source = 'house'): StockItem => ({
  id,
  label,
  kind: 'supply',
  unit: 'pieces',
  pack,
  openedDays: null,
  source,
});
const film = (id: string, label: string, pack: number, source: string): StockItem => ({
  id,
  label,
  kind: 'film',
  unit: 'connectors',
  pack,
  openedDays: null,
  source,
});
const batch = (id: string, label: string, pack: number, openedDays: number | null): StockItem => ({
  id,
  label,
  kind: 'batch',
  unit: 'connectors',
  pack,
  openedDays,
  source: 'house: go by the label',
});

const SECTIONS = 'five sections of 14 connectors (common practice)';
/** What the shipped methods use up. Packs and days are starting values: a school sets its own with each lot. */
export const STOCK_ITEMS: readonly StockItem[] = [
  film('film-12', 'Film 12 µm, air polish', 70, 'house: as the other films of the kit'),
  film('film-6', 'Film 6 µm, recovery', 70, 'house: as the other films of the kit'),
  film('film-5', 'Film 5 µm', 70, 'house: as the films of the primer kit'),
  film('film-3', 'Film 3 µm', 70, SECTIONS),
  film('film-1', 'Film 1 µm', 70, SECTIONS),
  film('film-finish', 'Finishing film', 16, '16 sections, each used once (common practice)'),
  film('film-005', 'Film 0.05 µm', 70, 'house: as the films of the primer kit'),
  batch('primer', 'Primer', 200, 90),
  batch('acrylic', 'Acrylic adhesive', 50, 30),
  batch('gel', 'Index-matching gel', 100, 180),
  batch('activator-adhesive', 'Adhesive with activator', 50, 30),
  supply('connector-epoxy', 'Connector, pre-loaded with epoxy', 25),
  supply('connector-polish', 'Connector to glue and polish', 50),
  supply('connector-crimp', 'Connector for the handle-operated crimp tool', 12),
  supply('connector-cam', 'Connector for the cam tool', 12),
  supply('connector-wedge', 'Connector with a wedge', 12),
  supply('connector-holder', 'Connector with a fiber holder', 12),
  supply('connector-flat', 'Connector for flat cable', 12),
  supply('connector-plunger', 'Connector for the plunger tool', 12),
  supply('connector-fused', 'Fused-on connector, 12 fibers', 6),
  supply('front-cap', 'Front cap of the crimp tool', 25, 'used once (common practice)'),
  supply('crimp-sleeve', 'Crimp sleeve', 50),
  supply('splice-sleeve', 'Splice protector, 40 mm', 50),
  supply('ribbon-sleeve', 'Splice protector for ribbons', 25),
  supply('wipes', 'Lint-free wipe', 280),
  supply('cleaner-stroke', 'Stroke of the pen-type cleaner', 500),
];
export const stockItem = (id: string): StockItem | null => STOCK_ITEMS.find((i) => i.id === id) ?? null;

/** Tools that wear with each piece: arcs, cleaves, matings. */
export const WORN_KINDS = ['splicer', 'cleaver', 'cord'] as const;
/** What an attempt takes: uses of stock by item, and of tools that wear by their kind. */
export interface MethodTakes {
  readonly items: Readonly<Record<string, number>>;
  readonly tools: Readonly<Partial<Record<(typeof WORN_KINDS)[number], number>>>;
}
/** What a piece takes, and what it does in an oven: what a day and a shopping list are worked out from. */
export interface MethodWork extends MethodTakes {
  readonly cure: CureOfMethod | null;
  /** The step until whose end an adhesive or a primer has to be good, by the id of the sheet's step; null where there is none. */
  readonly glueStep: string | null;
}

const WIPES = { wipes: 4 };
/** A loss test mates the launch cord for its reference and for its reading. */
const LOSS = { cord: 2 };
const PREPOLISHED = { cleaver: 1, ...LOSS };
const prepolished = (connector: string, more: Readonly<Record<string, number>> = {}): MethodTakes => ({
  items: { [connector]: 1, ...more, ...WIPES, 'cleaner-stroke': 2 },
  tools: PREPOLISHED,
});
const loss: MethodTakes = { items: { 'cleaner-stroke': 4 }, tools: LOSS };
const wedge = prepolished('connector-wedge');
const TAKES: Readonly<Record<string, MethodTakes>> = {
  'round-cord': { items: WIPES, tools: {} },
  'buffer-strip-900': { items: WIPES, tools: {} },
  'flat-drop': { items: WIPES, tools: {} },
  'bench-cleave': { items: WIPES, tools: { cleaver: 1 } },
  'epoxy-heat': {
    items: {
      'connector-epoxy': 1,
      'crimp-sleeve': 1,
      'film-12': 1,
      'film-3': 1,
      'film-1': 1,
      'film-finish': 1,
      ...WIPES,
    },
    tools: LOSS,
  },
  'acrylic-primer': {
    items: {
      'connector-polish': 1,
      primer: 1,
      acrylic: 1,
      'film-12': 1,
      'film-3': 1,
      'film-1': 1,
      'film-finish': 1,
      ...WIPES,
    },
    tools: LOSS,
  },
  'acrylic-activator': {
    items: {
      'connector-polish': 1,
      'activator-adhesive': 1,
      'crimp-sleeve': 1,
      'film-5': 1,
      'film-005': 1,
      ...WIPES,
    },
    tools: LOSS,
  },
  'handle-crimp': prepolished('connector-crimp', { 'front-cap': 1 }),
  'cam-light': prepolished('connector-cam'),
  'lc-wedge': wedge,
  'lc-wedge-locator': wedge,
  'st-wedge': wedge,
  'st-wedge-locator': wedge,
  'holder-base': prepolished('connector-holder'),
  'flat-jig': prepolished('connector-flat'),
  'plunger-crimp': prepolished('connector-plunger', { 'crimp-sleeve': 1 }),
  'single-fusion': { items: { 'splice-sleeve': 1, ...WIPES }, tools: { splicer: 1, cleaver: 2 } },
  'ribbon-splice': { items: { 'ribbon-sleeve': 1, ...WIPES }, tools: { splicer: 1, cleaver: 2 } },
  'fused-mpo': { items: { 'connector-fused': 1, ...WIPES }, tools: { splicer: 1, cleaver: 1 } },
  'inspect-single': { items: { 'cleaner-stroke': 2 }, tools: {} },
  'inspect-mpo': { items: { 'cleaner-stroke': 2 }, tools: {} },
  'loss-one-cord': loss,
  'loss-two-cord': loss,
  'loss-two-cord-sm': loss,
  'loss-three-cord': loss,
  'loss-three-cord-sm': loss,
  'mpo-trunk': { items: { 'cleaner-stroke': 24 }, tools: { cord: 13 } },
  'otdr-link': loss,
};
const NOTHING: MethodTakes = { items: {}, tools: {} };

const nameOf = (methodId: string): string => methodId.slice(methodId.indexOf('/') + 1);

/** What an attempt by a method takes; nothing where it is a school's own method that nobody described. */
export const takesOf = (methodId: string): MethodTakes => TAKES[nameOf(methodId)] ?? NOTHING;

/** What a method does in an oven; null for those that do nothing there. Common practice: 15 to 60 minutes by the epoxy; the 25 and the rest of 3 are house. */
export const cureOf = (methodId: string): CureOfMethod | null =>
  nameOf(methodId) === 'epoxy-heat' ? { step: 'cure', minutes: 25, coolMinutes: 3, way: 'hanging' } : null;

/** The step until whose end an adhesive or a primer has to be good. */
export const glueStepOf = (methodId: string): string | null =>
  ({ 'acrylic-primer': 'insert', 'acrylic-activator': 'glue', 'epoxy-heat': 'feed' })[nameOf(methodId)] ??
  null;

/** A method as it is shipped: what it takes and what it does in an oven. A class may say otherwise for itself. */
export const workOf = (methodId: string): MethodWork => ({
  ...takesOf(methodId),
  cure: cureOf(methodId),
  glueStep: glueStepOf(methodId),
});
