import { applyPractice, dayIn, DEFAULT_POLICY, type PracticeChoices } from '@clear-mark/core';
import {
  cordChecksOf,
  type DemoData,
  makeDemo,
  makeSplicing,
  PRACTICE,
  SESSIONS,
  SPLICING_SESSIONS,
  stockOf,
} from '@clear-mark/demo';
import { DEFAULT_LOSS_SETTINGS, type MethodSheet } from '@clear-mark/core';
import { EXAMPLE_LINKS, LC_WEDGE_LOCATOR, SHIPPED_METHODS } from '@clear-mark/methods';
import { createHash } from 'node:crypto';
import { type ClassLink, DEMO_PIN, NO_SETTINGS, seenText } from '@clear-mark/contract';
import { type Database, hashOfPin, storesForLoading } from '@clear-mark/server';
import { v7 } from 'uuid';
import { loadFaces } from './load-demo-faces.ts';

export interface DemoLoad {
  readonly seed: number;
  readonly story: boolean;
  readonly now: Date;
  /** Without its pictures of end faces, which take most of the time to draw and to measure; with them unless told. */
  readonly faces?: boolean;
  /** Told how far it is, 0 to 1. */
  readonly onProgress?: (share: number) => void;
}

/**
 * Loads the demo class once, in one transaction, through the same services that an instructor's device calls:
 * entries with their sequence, signing with its score, its hash and its counting rows.
 */
export async function loadDemo(db: Database, load: DemoLoad): Promise<boolean> {
  return db.transaction(async (trx) => {
    await trx.raw('lock table classes in share row exclusive mode');
    if ((await trx('classes').select('id').first()) !== undefined) return false;
    const others = new Map(SHIPPED_METHODS.map((m) => [m.id.slice(m.id.lastIndexOf('/') + 1), m]));
    const sheet = applyPractice(LC_WEDGE_LOCATOR, PRACTICE);
    const data = makeDemo({ ...load, sheet, others });
    const splicing = makeSplicing({ ...load, sheet: SINGLE_FUSION, others });
    const say = sharer(data.attempts.length + splicing.attempts.length, load.onProgress);
    await loadClass(trx, data, [LC_WEDGE_LOCATOR.id, ...idsOf(SESSIONS), ...ALSO_IN_USE], load.now);
    await loadLinks(trx, data);
    for (const [practice, option] of Object.entries(PRACTICE)) {
      await storesForLoading(trx).classes.setPractice(data.classId, practice, option);
    }
    await loadAttempts(trx, data, PRACTICE, say);
    await loadStock(trx, data, load.now);
    if (load.faces ?? true) await loadFaces(trx, data, load.seed);
    await loadClass(trx, splicing, [SINGLE_FUSION.id, ...idsOf(SPLICING_SESSIONS)], load.now);
    await loadAttempts(trx, splicing, {}, say);
    return true;
  });
}

/** Counts what is done and tells the share of it. */
function sharer(all: number, tell: DemoLoad['onProgress']): (more: number) => void {
  let done = 0;
  return (more) => {
    done += more;
    tell?.(done / all);
  };
}

const shipped = (name: string): MethodSheet => SHIPPED_METHODS.find((m) => m.id === `clear-mark/${name}`)!;
const SINGLE_FUSION = shipped('single-fusion');
/** Methods that the demo’s class has in use beside the one that its pieces were made by. */
const ALSO_IN_USE = [
  'loss-one-cord',
  'loss-two-cord',
  'blind-calls',
  'otdr-link',
  'read-a-trace',
  'epoxy-heat',
].map((n) => shipped(n).id);
/** Good pieces that each trainee of the demo’s class makes in its course; invented. */
const COURSE = { 'lc-wedge-locator': 12, 'single-fusion': 6, 'epoxy-heat': 4 } as const;
const idsOf = (sessions: readonly { readonly method: string }[]): string[] =>
  sessions.map((s) => shipped(s.method).id);

async function loadClass(
  trx: Database,
  data: DemoData,
  methods: readonly string[],
  now: Date,
): Promise<void> {
  const { benchDevices, classes, cordChecks, people } = storesForLoading(trx);
  const pin = await hashOfPin(DEMO_PIN);
  for (const person of data.people) {
    await people.insert({ ...person }, null);
    if (person.role !== 'lead') await benchDevices.setPin(person.id, pin);
  }
  await classes.insert(
    {
      id: data.classId,
      name: data.name,
      place: data.place,
      timeZone: data.timeZone,
      startsOn: data.startsOn,
      endsOn: data.endsOn,
    },
    DEFAULT_POLICY,
  );
  for (const person of data.people) {
    if (person.role !== 'lead') await classes.addMember(data.classId, person.id, person.role);
  }
  for (const thing of data.things) await classes.insertThing(data.classId, thing);
  const instructor = data.people.find((p) => p.role === 'instructor')!.id;
  for (const { thingId, ...check } of cordChecksOf(data, dayIn(data.timeZone, now))) {
    const at = new Date(`${check.checkedOn}T08:00:00Z`);
    await cordChecks.insert(data.classId, thingId, { id: v7(), ...check }, instructor, at);
  }
  for (const id of methods) await classes.useMethod(data.classId, await shippedVersion(trx, id), true);
}

/** Ovens and lots, what is set of them, and what the pieces used. */
async function loadStock(trx: Database, data: DemoData, now: Date): Promise<void> {
  const { classes, course, stock } = storesForLoading(trx);
  const { things, settings, opened, uses } = stockOf(data, now);
  for (const thing of things) await classes.insertThing(data.classId, thing);
  for (const { thingId, settings: set } of settings)
    await stock.set(data.classId, thingId, { ...NO_SETTINGS, ...set });
  const by = data.people.find((p) => p.role === 'instructor')!.id;
  const at = new Date(`${data.startsOn}T06:00:00Z`);
  for (const id of opened)
    await stock.addEvent(
      data.classId,
      id,
      { id: v7(), act: 'opened', left: null, reason: '', amount: 0 },
      by,
      at,
    );
  await stock.addUsesOf(data.classId, uses);
  for (const [name, pieces] of Object.entries(COURSE))
    await course.set(data.classId, { methodId: shipped(name).id, pieces, work: null });
}

/** The piece of the simulated bench as it was built. */
const BENCH_LINK: (typeof EXAMPLE_LINKS)[number] = {
  label: 'Simulated bench, spliced half-way',
  referenceMethod: 'one_cord',
  settings: DEFAULT_LOSS_SETTINGS,
  plan: {
    fiberClass: 'OS2',
    fibers: 12,
    ends: ['panel', 'panel'],
    segments: [
      { kind: 'cable', lengthM: 100, polish: 'flat' },
      { kind: 'cable', lengthM: 100, polish: 'flat' },
    ],
    joints: ['splice'],
  },
};

async function loadLinks(trx: Database, data: DemoData): Promise<void> {
  const { links } = storesForLoading(trx);
  const by = data.people[0]!.id;
  for (const link of EXAMPLE_LINKS.concat(BENCH_LINK)) {
    await links.save(data.classId, { ...structuredClone(link), id: v7(), retired: false } as ClassLink, by);
  }
}

const shippedVersion = async (trx: Database, methodId: string): Promise<string> =>
  (await trx('method_versions').where({ method_id: methodId }).orderBy('version', 'desc').pluck('id'))[0];

/** Attempts that are written together: a statement for each would cost more than what it says. */
const TOGETHER = 100;

async function loadAttempts(
  trx: Database,
  data: DemoData,
  schools: PracticeChoices,
  say: (more: number) => void,
): Promise<void> {
  const { attempts, entries, references, sign } = storesForLoading(trx);
  const versions = new Map<string, string>();
  for (const id of new Set(data.attempts.map((a) => a.methodId)))
    versions.set(id, await shippedVersion(trx, id));
  const kinds = new Map(SHIPPED_METHODS.map((m) => [m.id, m.pieceKind]));
  const people = new Map(data.people.map((p) => [p.id, p]));
  for (const reference of data.references) {
    await references.insert(data.classId, reference.setBy, { ...reference, showsNegative: false });
  }
  // Signed in the order of signing: the chain of a class runs in time.
  const order = [...data.attempts].sort((a, b) => ((a.sign?.at ?? '9') < (b.sign?.at ?? '9') ? -1 : 1));
  for (let from = 0; from < order.length; from += TOGETHER) {
    const some = order.slice(from, from + TOGETHER);
    await attempts.insertMany(
      some.map((attempt) => ({
        ...attempt,
        classId: data.classId,
        methodVersionId: versions.get(attempt.methodId)!,
        pieceKind: kinds.get(attempt.methodId)!,
        clockOffsetMs: 0,
        receivedAt: attempt.startedAt,
        nextSeq: attempt.entries.length + 1,
        schools,
      })),
    );
    await entries.insert(
      some.flatMap((attempt) =>
        attempt.entries.map((entry, index) => ({
          ...entry,
          attemptId: attempt.id,
          seq: index + 1,
          clockOffsetMs: 0,
          deliveredBy: null,
        })),
      ),
    );
    for (const attempt of some) {
      if (!attempt.sign) continue;
      const { by, at, reason, asVoid } = attempt.sign;
      const seen = seenText(attempt.entries.map((e) => e.id));
      const digest = createHash('sha256').update(seen).digest('hex');
      const request = { upTo: attempt.entries.length, digest, reason, asVoid };
      await sign(attempt.id, request, { ...people.get(by)! }, new Date(at));
    }
    say(some.length);
  }
}
