import type { Criterion, Entry, EntryValue, MethodSheet } from '@clear-mark/core';
import {
  actOn,
  type BenchPiece,
  chance,
  newBenchPiece,
  normal,
  pick,
  type Rng,
  rngFrom,
  uuidFrom,
} from '@clear-mark/sim';
import type { DemoAttempt, DemoData, DemoOptions, DemoPerson, DemoThing } from './demo-data.ts';
import { demoEntry, initials } from './demo-entry.ts';
import { PRACTISED } from './hands.ts';
import { type MadeSession, makeSession, type SessionPeople } from './more-methods.ts';
import { SPLICING, SPLICING_SESSIONS } from './scenario.ts';
import { classTime, workingDaysBefore } from './working-days.ts';

const MINUTE = 60_000;
/** Pieces of a tray. */
const TRAY = 12;
/** The days of the course lie this many working days back. */
const DAYS_AGO = 30;

/** What became of one splice, from which an instructor reads values. */
interface Splice {
  readonly piece: BenchPiece;
  readonly slip: number;
  /** What the splicer adds to the joint, dB. */
  readonly addedDb: number;
}

/**
 * The demo's second class: two days of fusion splicing, a tray of twelve for each trainee, over and signed. With the
 * story one trainee's cleaves are careless on one side. The same for the same seed and instant.
 */
export function makeSplicing(options: DemoOptions): DemoData {
  const rng = rngFrom(options.seed * 31 + 5);
  const person = (name: string, login: string, role: DemoPerson['role']): DemoPerson => ({
    id: uuidFrom(rng),
    name,
    login,
    role,
  });
  const instructor = person(SPLICING.instructor.name, SPLICING.instructor.login, 'instructor');
  const trainees = SPLICING.trainees.map((name) =>
    person(name, name.split(' ')[1]!.toLowerCase(), 'trainee'),
  );
  const things: DemoThing[] = [
    ...trainees.map((_, i) => ({
      id: uuidFrom(rng),
      kind: 'bench' as const,
      label: `Splice bench ${i + 1}`,
    })),
    ...SPLICING.splicers.map((label) => ({ id: uuidFrom(rng), kind: 'splicer' as const, label })),
    ...SPLICING.cleavers.map((label) => ({ id: uuidFrom(rng), kind: 'cleaver' as const, label })),
  ];
  // From a generator of its own: what the first one gives out next stays as it was.
  things.push({ id: uuidFrom(rngFrom(options.seed + 1013)), kind: 'instrument', label: SPLICING.meter });
  const days = workingDaysBefore(options.now, DAYS_AGO, SPLICING.timeZone).slice(0, 2);
  const deviceId = uuidFrom(rng);
  const attempts: DemoAttempt[] = [];
  trainees.forEach((trainee, t) => {
    for (let n = 0; n < TRAY; n++) {
      const morning = classTime(days[n < TRAY / 2 ? 0 : 1]!, 9, SPLICING.timeZone);
      const startedAt = morning + (n % (TRAY / 2)) * 32 * MINUTE + t * 3 * MINUTE;
      const careless = options.story && t === SPLICING.carelessLeft;
      const care = Math.min(0.98, 0.86 + 0.01 * n + normal(rng, 0, 0.03));
      const made = makeSplice(careless ? care - 0.4 : care, care, rng);
      const splice = { ...made, addedDb: addedBy(t % SPLICING.splicers.length, options.story) };
      const entries = entriesOf(options.sheet, splice, instructor.id, deviceId, startedAt, rng);
      const thing = (kind: DemoThing['kind'], i: number): string => {
        const list = things.filter((x) => x.kind === kind);
        return list[i % list.length]!.id;
      };
      attempts.push({
        id: uuidFrom(rng),
        methodId: options.sheet.id,
        traineeId: trainee.id,
        pieceId: uuidFrom(rng),
        pieceLabel: `${initials(trainee.name)}-S${String(n + 1).padStart(2, '0')}`,
        thingIds: [thing('bench', t), thing('splicer', t), thing('cleaver', t + n)],
        startedAt: new Date(startedAt).toISOString(),
        deviceId,
        startedBy: instructor.id,
        entries,
        sign: {
          by: instructor.id,
          at: new Date(Date.parse(entries[entries.length - 1]!.at) + 30_000).toISOString(),
          reason: null,
          asVoid: false,
        },
      });
    }
  });
  const classId = uuidFrom(rng);
  const sessions = sessionsOf(options, days, {
    trainees,
    instructors: [instructor],
    things,
    devices: [deviceId],
  });
  return {
    classId,
    name: SPLICING.className,
    place: SPLICING.place,
    timeZone: SPLICING.timeZone,
    startsOn: days[0]!,
    endsOn: days[1]!,
    people: [instructor, ...trainees],
    things,
    references: sessions.flatMap((s) => s.references),
    attempts: [...attempts, ...sessions.flatMap((s) => s.attempts)],
  };
}

/** What everybody makes beside the tray, on the same two days. */
function sessionsOf(
  { seed, story, others }: DemoOptions,
  days: readonly string[],
  people: Pick<SessionPeople, 'trainees' | 'instructors' | 'things' | 'devices'>,
): MadeSession[] {
  return SPLICING_SESSIONS.flatMap((session, index) => {
    const sheet = others?.get(session.method);
    if (!sheet) return [];
    const all: SessionPeople = {
      ...people,
      timeZone: SPLICING.timeZone,
      handOf: () => PRACTISED,
      misjudging: null,
      addedJointDb: (splicer) => addedBy(splicer, story),
      stopped: null,
    };
    return [makeSession(session, sheet, days[session.day]!, all, seed + 3001 * (index + 1))];
  });
}

/** Worn electrodes make every arc a little unsteady. */
const addedBy = (splicer: number, story: boolean): number =>
  story && splicer === SPLICING.wornSplicer ? SPLICING.wornDb : 0;

function makeSplice(leftCare: number, rightCare: number, rng: Rng): Omit<Splice, 'addedDb'> {
  let piece = newBenchPiece(rng, 1);
  piece = actOn(piece, { act: 'cleave', side: 'left', care: leftCare }, rng);
  // Whoever looks cleaves again when the angle is plainly bad; not everybody looks.
  if (piece.left.angleDeg > 2 && chance(rng, 0.7)) {
    piece = actOn(piece, { act: 'cleave', side: 'left', care: leftCare }, rng);
  }
  piece = actOn(piece, { act: 'cleave', side: 'right', care: rightCare }, rng);
  piece = actOn(piece, { act: 'fuse' }, rng);
  return { piece, slip: 0.12 * (1 - rightCare) };
}

function entriesOf(
  sheet: MethodSheet,
  splice: Splice,
  authorId: string,
  deviceId: string,
  startedAt: number,
  rng: Rng,
): Entry[] {
  const entries: Entry[] = [];
  let at = startedAt;
  for (const criterion of sheet.steps.flatMap((s) => s.criteria)) {
    for (const [part, value] of valuesOf(criterion, splice, rng)) {
      at += 8_000 + Math.floor(rng() * 30_000);
      entries.push(demoEntry(criterion, part, value, at, { authorId, deviceId }, rng));
    }
  }
  return entries;
}

function valuesOf(criterion: Criterion, { piece, slip, addedDb }: Splice, rng: Rng): [string, EntryValue][] {
  const name = criterion.id.slice(criterion.id.lastIndexOf('/') + 1);
  const made = piece.joint!;
  const joint = { ...made, estimateDb: Math.round((made.estimateDb + addedDb) * 100) / 100 };
  switch (criterion.kind) {
    case 'check': {
      const passed = name === 'proof' ? joint.holds : !chance(rng, criterion.stop ? 0 : slip);
      const fault = criterion.faults?.length ? pick(rng, criterion.faults) : null;
      return [
        ['', passed || !fault ? { kind: 'check', passed } : { kind: 'check', passed, faults: [fault] }],
      ];
    }
    case 'measure': {
      const measured: Readonly<Record<string, string>> = {
        'angle-left': piece.left.angleDeg.toFixed(1),
        'angle-right': piece.right.angleDeg.toFixed(1),
        estimate: joint.estimateDb.toFixed(2),
        overlap: (7.6 + normal(rng, 0, 0.4)).toFixed(1),
      };
      return [['', { kind: 'measure', text: measured[name] ?? middle(criterion), unit: criterion.unit }]];
    }
    case 'count':
      return [
        [
          '',
          {
            kind: 'count',
            count:
              name === 're-arcs' ? Number(joint.estimateDb > 0.09) : Math.round(Number(middle(criterion))),
          },
        ],
      ];
    case 'timed':
      return [['', { kind: 'timed', text: criterion.band.lower?.value ?? '60' }]];
    case 'grade': {
      const bad = criterion.levels[2]?.id ?? criterion.levels[0]!.id;
      const level = name === 'joint' && joint.estimateDb > 0.12 ? bad : criterion.levels[0]!.id;
      return [['', { kind: 'grade', level }]];
    }
    case 'readings':
      if (name !== 'both-ways' || chance(rng, 0.4)) return [];
      return (['a_b', 'b_a'] as const).map((way) => [
        way,
        { kind: 'measure', text: joint.lossDb[way].toFixed(2), unit: 'dB' },
      ]);
    case 'loss':
    case 'map':
    case 'call':
      return [];
    default: {
      const never: never = criterion;
      return never;
    }
  }
}

/** A value inside a band: its target, or its one end. */
function middle(criterion: Criterion & { kind: 'measure' | 'count' }): string {
  const { target, lower, upper } = criterion.band;
  return target ?? lower?.value ?? upper?.value ?? '0';
}
