import type { ThingKind } from '@clear-mark/core';
import { stockItem, takesOf } from '@clear-mark/methods';
import { rngFrom, uuidFrom } from '@clear-mark/sim';
import type { DemoData, DemoThing } from './demo-data.ts';

/** What is set of a thing, as far as it bears on its kind; instants and days in ISO 8601. */
export interface DemoSettings {
  readonly item?: string;
  readonly uses?: number;
  readonly positions?: number;
  readonly hanging?: number;
  readonly flat?: number;
  readonly restMinutes?: number;
  readonly expiresAt?: string;
  readonly openedDays?: number;
  readonly dueOn?: string;
}
export interface DemoStock {
  /** Ovens and lots, beside the things that the class has. */
  readonly things: readonly DemoThing[];
  readonly settings: readonly { readonly thingId: string; readonly settings: DemoSettings }[];
  /** Lots that were opened on the first day. */
  readonly opened: readonly string[];
  readonly uses: readonly {
    readonly attemptId: string;
    readonly taken: readonly { readonly lotId: string; readonly uses: number }[];
  }[];
}

/** Lots of the class: what is left of each at the end, days until it is past its date, whether it was opened. Invented. */
const LOTS: readonly (readonly [
  item: string,
  batch: string,
  left: number,
  days: number | null,
  opened: boolean,
])[] = [
  ['connector-wedge', 'W-118', 31, null, true],
  ['wipes', 'box 4', 1460, null, true],
  ['cleaner-stroke', 'pen 2', 610, null, true],
  ['connector-epoxy', 'E-07', 64, 120, true],
  ['crimp-sleeve', 'S-31', 88, null, true],
  ['film-12', 'roll 1', 41, null, true],
  ['film-3', 'roll 3', 33, null, true],
  ['film-1', 'roll 3', 47, null, true],
  ['film-finish', 'pack 9', 30, null, true],
  ['connector-polish', 'P-52', 34, null, true],
  ['primer', 'PR-204', 160, 5, true],
  ['acrylic', 'AC-77', 22, 40, true],
  ['acrylic', 'AC-71', 9, -3, true],
  ['splice-sleeve', 'SP-5', 42, null, true],
];
const OVENS = [
  ['Oven 1', { hanging: 12, flat: 4, restMinutes: 5 }],
  ['Oven 2', { hanging: 8, flat: 2, restMinutes: 5 }],
] as const;
/** Uses from one service to the next; from memory, invented for these tools. */
const SERVICE_AFTER: Readonly<Partial<Record<ThingKind, number>>> = {
  splicer: 1500,
  cleaver: 1000,
  cord: 500,
};
const DAY_MS = 86_400_000;

/** The ovens, lots and counts of a class, so that its pieces have used what their methods use. */
export function stockOf(data: DemoData, now: Date): DemoStock {
  const rng = rngFrom(Number.parseInt(data.classId.slice(0, 8), 16));
  const day = (days: number): string => new Date(now.getTime() + days * DAY_MS).toISOString();
  const ovens = OVENS.map((oven) => ({ id: uuidFrom(rng), kind: 'oven' as ThingKind, label: oven[0] }));
  const lots = LOTS.map((lot) => {
    const { kind, label } = stockItem(lot[0])!;
    return { thing: { id: uuidFrom(rng), kind: kind as ThingKind, label: `${label}, ${lot[1]}` }, lot };
  });
  const uses = data.attempts.map((attempt) => {
    const { items, tools } = takesOf(attempt.methodId);
    const taken = Object.entries(items).flatMap(([item, each]) => {
      const lot = lots.find((l) => l.lot[0] === item);
      return lot ? [{ lotId: lot.thing.id, uses: each }] : [];
    });
    const worn = attempt.thingIds.flatMap((id) => {
      const kind = data.things.find((t) => t.id === id)?.kind;
      const each = tools[kind as keyof typeof tools];
      return each === undefined ? [] : [{ lotId: id, uses: each }];
    });
    return { attemptId: attempt.id, taken: [...taken, ...worn] };
  });
  const usedOf = (id: string): number =>
    uses.flatMap((u) => u.taken).reduce((sum, t) => sum + (t.lotId === id ? t.uses : 0), 0);
  const settings = [
    ...ovens.map(({ id }, i) => ({ thingId: id, settings: { ...OVENS[i]![1] } })),
    ...lots.map(({ thing, lot: [item, , left, days] }) => ({
      thingId: thing.id,
      settings: {
        item,
        uses: left + usedOf(thing.id),
        ...(days === null ? {} : { expiresAt: day(days) }),
      },
    })),
    ...data.things.flatMap(({ id, kind }, i): { thingId: string; settings: DemoSettings }[] => {
      const after = SERVICE_AFTER[kind];
      if (after !== undefined) {
        const blade = kind === 'cleaver' ? { positions: 16 } : {};
        return [{ thingId: id, settings: { uses: after, ...blade } }];
      }
      return kind === 'instrument'
        ? [{ thingId: id, settings: { dueOn: day(4 + 60 * (i % 3)).slice(0, 10) } }]
        : [];
    }),
  ];
  const opened = lots.filter(({ lot }) => lot[4]).map(({ thing }) => thing.id);
  return { things: [...ovens, ...lots.map((l) => l.thing)], settings, opened, uses };
}
