import { type MethodSheet, type ReferenceMethod, type TradeSkill } from '@clear-mark/core';
import { type Hand, rngFrom, uuidFrom } from '@clear-mark/sim';
import { scoreAny } from './any-method.ts';
import { initials } from './demo-entry.ts';
import type { DemoAttempt, DemoReference, DemoThing } from './demo-data.ts';
import { type MethodSession, STORIES } from './scenario.ts';
import { classTime } from './working-days.ts';

const MINUTE = 60_000;

/** Who works in a session, and with what. */
export interface SessionPeople {
  readonly trainees: readonly { readonly id: string; readonly name: string }[];
  readonly instructors: readonly { readonly id: string }[];
  readonly things: readonly DemoThing[];
  readonly devices: readonly string[];
  readonly timeZone: string;
  /** The hand of a trainee at this time of the course. */
  readonly handOf: (trainee: number) => Hand;
  /** Index of the trainee who calls faces wrong; null in the null class. */
  readonly misjudging: number | null;
  /** What a splicer of this index adds to a joint, dB. */
  readonly addedJointDb: (splicer: number) => number;
  /** Index of the trainee whose first piece is stopped for safety; null for none. */
  readonly stopped: number | null;
}

export interface MadeSession {
  readonly attempts: readonly DemoAttempt[];
  readonly references: readonly DemoReference[];
}

/** The slips of a hand by skill. */
const slipOf = (hand: Hand): Record<TradeSkill, number> => ({
  strip: hand.slip * 0.8,
  cleave: hand.slip * 0.4 + Math.max(0, hand.cleaveAngleDeg - 0.35) * 0.45,
  terminate: hand.slip,
  splice: hand.slip * 0.8,
  inspect: hand.leavesDirt * 0.6,
  test: hand.testSlip * 0.6,
});

/** The pieces of one afternoon by one method, a few a trainee, with what a loss test needs. The same for the same seed. */
export function makeSession(
  session: MethodSession,
  sheet: MethodSheet,
  day: string,
  people: SessionPeople,
  seed: number,
): MadeSession {
  const rng = rngFrom(seed);
  const start = classTime(day, session.hour, people.timeZone);
  const references = lossReferences(sheet, people, start - 10 * MINUTE, () => uuidFrom(rng));
  const attempts = people.trainees.flatMap((trainee, t) =>
    Array.from({ length: session.pieces }, (_, n): DemoAttempt => {
      const instructor = people.instructors[t % people.instructors.length]!;
      const deviceId = people.devices[t % people.devices.length]!;
      const hand = people.handOf(t);
      const things = sheet.thingsUsed.flatMap((kind) => {
        const list = people.things.filter((x) => x.kind === kind);
        return list.length === 0
          ? []
          : [{ kind, at: (t + n) % list.length, thing: list[(t + n) % list.length]! }];
      });
      const splicer = things.find((x) => x.kind === 'splicer')?.at ?? 0;
      const startedAt = start + n * 14 * MINUTE + t * 40_000;
      const stop = t === people.stopped && n === 0 && session.stop ? { stop: session.stop } : {};
      const entries = scoreAny(
        sheet,
        {
          slip: slipOf(hand),
          misjudges: t === people.misjudging ? STORIES.misjudges : hand.testSlip * 0.4,
          addedJointDb: people.addedJointDb(splicer),
          referenceId: (nm) => references.find((r) => r.wavelengthNm === nm)!.id,
          authorId: instructor.id,
          deviceId,
          startedAt,
          ...stop,
        },
        rng,
      );
      return {
        id: uuidFrom(rng),
        methodId: sheet.id,
        traineeId: trainee.id,
        pieceId: uuidFrom(rng),
        pieceLabel: `${initials(trainee.name)}-${session.mark}${String(n + 1)}`,
        thingIds: things.map((x) => x.thing.id),
        startedAt: new Date(startedAt).toISOString(),
        deviceId,
        startedBy: instructor.id,
        entries,
        sign: {
          by: instructor.id,
          at: new Date(Date.parse(entries.at(-1)!.at) + 20_000).toISOString(),
          reason: null,
          asVoid: false,
        },
      };
    }),
  );
  return { attempts, references };
}

/** One reference a wavelength that the method measures, by the method's own way. */
function lossReferences(
  sheet: MethodSheet,
  people: SessionPeople,
  at: number,
  newId: () => string,
): DemoReference[] {
  const loss = sheet.steps.flatMap((s) => s.criteria).find((c) => c.kind === 'loss');
  const meter = people.things.find((t) => t.kind === 'instrument');
  if (loss?.kind !== 'loss' || !meter) return [];
  const method: ReferenceMethod = loss.link.referenceMethod;
  return loss.wavelengthsNm.map((wavelengthNm) => ({
    id: newId(),
    instrumentId: meter.id,
    method,
    wavelengthNm,
    valueDbm: wavelengthNm < 1000 ? '-19.40' : '-5.30',
    setAt: new Date(at).toISOString(),
    setBy: people.instructors[0]!.id,
    light: wavelengthNm < 1000 || wavelengthNm === 1300 ? 'led' : 'laser',
  }));
}
