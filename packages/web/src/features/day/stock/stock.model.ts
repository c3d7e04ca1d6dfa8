import { NO_SETTINGS, type StockItemShape, type StockThing, type ThingSettings } from '@clear-mark/contract';
import type { ThingKind, ThingWarning } from '@clear-mark/core';

export const WARNING_WORDS: Readonly<Record<ThingWarning, string>> = {
  expired: 'expired',
  used_up: 'used up',
  overdue: 'overdue',
  expires_soon: 'expires soon',
  runs_out: 'runs out soon',
  due_soon: 'due soon',
};

/** What one use of a thing is called, as it is counted. */
const USES_OF: Readonly<Partial<Record<ThingKind, string>>> = {
  splicer: 'arcs',
  cleaver: 'cleaves',
  cord: 'matings',
};
export const unitOf = (
  { kind, settings }: Pick<StockThing, 'kind' | 'settings'>,
  items: readonly StockItemShape[],
): string => (settings.item ? itemOf(items, settings.item)?.unit : USES_OF[kind]) ?? 'uses';

export const itemOf = (items: readonly StockItemShape[], id: string): StockItemShape | null =>
  items.find((i) => i.id === id) ?? null;
/** What an item is called; its id where the class has none of it any more. */
export const itemWords = (items: readonly StockItemShape[], id: string): string =>
  itemOf(items, id)?.label ?? id.replaceAll('_', ' ');

/** What is done to a thing after which it counts anew; null for what does not, and for cords, whose check is kept with its reading. */
const SERVICE_OF: Readonly<Partial<Record<ThingKind, string>>> = {
  splicer: 'Electrodes changed',
  cleaver: 'Blade turned or changed',
  scope: 'Checked',
  instrument: 'Calibrated',
  oven: 'Checked',
};
export const serviceOf = (kind: ThingKind): string | null => SERVICE_OF[kind] ?? null;

/** Starting values where nobody set any; from memory, to be set by the maker’s figures. */
const USUAL: Readonly<Partial<Record<ThingKind, Partial<ThingSettings>>>> = {
  splicer: { uses: 2000 },
  cleaver: { uses: 1000, positions: 16 },
  cord: { uses: 500 },
  oven: { hanging: 12, flat: 4, trays: 1, restMinutes: 5 },
};
export const usualSettings = (kind: ThingKind): ThingSettings => ({ ...NO_SETTINGS, ...USUAL[kind] });
/** What a lot of an item starts with. */
export const usualLot = ({ id, pack, openedDays }: StockItemShape): ThingSettings => ({
  ...NO_SETTINGS,
  item: id,
  uses: pack,
  openedDays,
});

/** What is set, used up or due: those with something wrong first, the gravest before the rest. */
export function stockRows(things: readonly StockThing[]): StockThing[] {
  const grave = (t: StockThing): number => (t.warnings.length === 0 ? 99 : ORDER.indexOf(t.warnings[0]!));
  const kept = things.filter((t) => !t.retired && COUNTED.has(t.kind));
  return [...kept].sort((a, b) => grave(a) - grave(b));
}
const ORDER: readonly ThingWarning[] = [
  'expired',
  'used_up',
  'overdue',
  'expires_soon',
  'runs_out',
  'due_soon',
];
const COUNTED: ReadonlySet<ThingKind> = new Set([
  'oven',
  'splicer',
  'cleaver',
  'scope',
  'instrument',
  'cord',
  'film',
  'batch',
  'supply',
]);

/** How much is left, as a share of what there was; null for what is not counted. */
export const shareLeft = ({ left, settings }: Pick<StockThing, 'left' | 'settings'>): number | null =>
  left === null || settings.uses === null ? null : left / settings.uses;
