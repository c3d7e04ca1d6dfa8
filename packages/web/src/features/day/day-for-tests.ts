import { dayWanted, searchPlan, type ThingKind } from '@clear-mark/core';
import {
  type CourseMethod,
  type DayMethod,
  type DayPlanBody,
  NO_SETTINGS,
  type StockItemShape,
  type StockThing,
  type ThingSettings,
} from '@clear-mark/contract';
import { STOCK_ITEMS, workOf } from '@clear-mark/methods';
import { rngFrom } from '@clear-mark/sim';

/** The shipped stock items, as a class has them. */
export const ITEMS: readonly StockItemShape[] = STOCK_ITEMS.map(({ source: _, ...item }) => item);
/** A method of a course, as it is shipped. */
export const courseMethod = (methodId: string, more: Partial<CourseMethod> = {}): CourseMethod => ({
  methodId,
  title: methodId,
  steps: [{ id: 'cut', title: 'Cut' }],
  pieces: null,
  passed: 0,
  failed: 0,
  made: {},
  work: workOf(methodId) as CourseMethod['work'],
  isOwnWork: false,
  ...more,
});

const GLUED: DayMethod = {
  versionId: 'v-glued',
  methodId: 'clear-mark/acrylic-primer',
  title: 'Glued',
  skills: ['terminate', 'inspect'],
  steps: [
    { kind: 'work', name: 'Prepare', minutes: 10, station: null, watched: 2 },
    { kind: 'cure', name: 'Cure', minutes: 25, cool: 3, schedule: '25 min', way: 'hanging' },
    { kind: 'work', name: 'Polish', minutes: 8, station: null, watched: 0 },
  ],
  places: [0, 1, 2],
  glueStep: 0,
  needs: [
    { item: 'primer', uses: 1 },
    { item: 'acrylic', uses: 1 },
  ],
  class: null,
  trainees: {},
};
const SPLICED: DayMethod = {
  versionId: 'v-spliced',
  methodId: 'clear-mark/single-fusion',
  title: 'Spliced',
  skills: ['splice', 'strip'],
  steps: [
    { kind: 'work', name: 'Strip', minutes: 7, station: null, watched: 0 },
    { kind: 'work', name: 'Splice', minutes: 8, station: 'splicer', watched: 1 },
  ],
  places: [0, 1],
  glueStep: null,
  needs: [],
  class: null,
  trainees: {},
};
export const METHODS: readonly DayMethod[] = [GLUED, SPLICED];

/** Two trainees with a glued and a spliced piece each, planned: one oven, one splicer, one instructor. */
export function dayForTests(): DayPlanBody {
  const body: DayPlanBody = {
    hours: [
      { from: '2026-09-14T08:30:00.000Z', to: '2026-09-14T12:00:00.000Z' },
      { from: '2026-09-14T12:45:00.000Z', to: '2026-09-14T16:30:00.000Z' },
    ],
    stations: { splicer: ['s1'] },
    ovens: [{ id: 'oven-1', places: { hanging: 12, flat: 4 }, trays: 1, rest: 5 }],
    instructors: ['i1'],
    benches: {},
    pieces: ['a', 'b'].flatMap((traineeId) =>
      METHODS.map((m) => ({
        id: `${traineeId}-${m.versionId}`,
        traineeId,
        methodVersionId: m.versionId,
        steps: structuredClone(m.steps),
      })),
    ),
    away: [],
    locks: [],
    plan: null,
    version: 1,
  };
  const plan = searchPlan(dayWanted(body), { tries: 200, random: rngFrom(1) });
  return { ...body, plan: structuredClone(plan) as unknown as DayPlanBody['plan'] };
}

const NAMES: Readonly<Record<string, string>> = { a: 'Ada Norr', b: 'Bo Vint' };
export const names = {
  nameOf: (id: string) => NAMES[id] ?? '',
  shortOf: (id: string) => (NAMES[id] ?? '').replace(/[^A-Z]/g, ''),
  labelOf: (id: string) => `thing ${id}`,
  titleOf: (id: string) => METHODS.find((m) => m.versionId === id)?.title ?? '',
};

export const thing = (
  id: string,
  kind: ThingKind,
  settings: Partial<ThingSettings>,
  more: Partial<StockThing> = {},
): StockThing => ({
  id,
  kind,
  label: `thing ${id}`,
  retired: false,
  settings: { ...NO_SETTINGS, ...settings },
  openedAt: null,
  servicedAt: null,
  used: 0,
  left: null,
  position: null,
  lastsDays: null,
  goodUntil: null,
  warnings: [],
  events: [],
  ...more,
});
