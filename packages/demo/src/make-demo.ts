import type { ThingKind } from '@clear-mark/core';
import { chance, makeConnector, type Rng, rngFrom, uuidFrom } from '@clear-mark/sim';
import type {
  DemoAttempt,
  DemoData,
  DemoOptions,
  DemoPerson,
  DemoReference,
  DemoThing,
} from './demo-data.ts';
import { initials } from './demo-entry.ts';
import { traineeHands } from './hands.ts';
import { makeSession } from './more-methods.ts';
import { BENCH_INSTRUMENTS, SCENARIO, SESSIONS, STORIES } from './scenario.ts';
import { type DayReference, scorePiece } from './score-piece.ts';
import { classTime, workingDaysBefore } from './working-days.ts';

const COURSE_DAYS = 21;
const MINUTE = 60_000;
const HOUR = 60 * MINUTE;

/** The demo's class: people, things, references and attempts, the same for the same seed and instant. */
export function makeDemo(options: DemoOptions): DemoData {
  return new DemoMaker(options).make();
}

class DemoMaker {
  private readonly rng: Rng;
  private readonly people: DemoPerson[] = [];
  private readonly things: DemoThing[] = [];
  /** In the class, and not in the round of tools that pieces are made with. */
  private readonly extra: DemoThing[] = [];
  private readonly references: DemoReference[] = [];
  private readonly attempts: DemoAttempt[] = [];
  private readonly devices: string[];
  private readonly trainees: DemoPerson[];
  private readonly instructors: DemoPerson[];
  private readonly hands: ReturnType<typeof traineeHands>;
  private readonly made: number[];

  constructor(private readonly options: DemoOptions) {
    this.rng = rngFrom(options.seed);
    const person = (name: string, login: string, role: DemoPerson['role']): DemoPerson => {
      const made = { id: uuidFrom(this.rng), name, login, role };
      this.people.push(made);
      return made;
    };
    person(SCENARIO.lead.name, SCENARIO.lead.login, 'lead');
    this.instructors = SCENARIO.instructors.map((i) => person(i.name, i.login, 'instructor'));
    this.trainees = SCENARIO.trainees.map((name) =>
      person(name, name.split(' ')[1]!.toLowerCase(), 'trainee'),
    );
    this.devices = [uuidFrom(this.rng), uuidFrom(this.rng)];
    this.hands = traineeHands(this.trainees.length, options.story, this.rng);
    this.made = this.trainees.map(() => 0);
    this.trainees.forEach((_, i) => this.thing('bench', `Bench ${i + 1}`));
    SCENARIO.cleavers.forEach((label) => this.thing('cleaver', label));
    SCENARIO.scopes.forEach((label) => this.thing('scope', label));
    SCENARIO.instruments.forEach((label) => this.thing('instrument', label));
    SCENARIO.cords.forEach((label) => this.thing('cord', label));
    // From a generator of their own: what the first one gives out next stays as it was.
    const own = rngFrom(options.seed + 1009);
    const { source, ports, splicer, otdr } = BENCH_INSTRUMENTS;
    this.extra.push(
      { id: uuidFrom(own), kind: 'instrument', label: source },
      { id: uuidFrom(own), kind: 'instrument', label: ports },
      { id: uuidFrom(own), kind: 'splicer', label: splicer },
      { id: uuidFrom(own), kind: 'instrument', label: otdr },
    );
  }

  make(): DemoData {
    const { now } = this.options;
    const days = workingDaysBefore(now, COURSE_DAYS, SCENARIO.timeZone);
    days.forEach((day, index) => this.courseDay(day, index));
    this.today(days.length);
    this.sessions(days);
    const last = new Date(now.getTime() + 14 * 24 * HOUR);
    return {
      classId: uuidFrom(this.rng),
      name: SCENARIO.className,
      place: SCENARIO.place,
      timeZone: SCENARIO.timeZone,
      startsOn: days[0]!,
      endsOn: last.toISOString().slice(0, 10),
      people: this.people,
      things: [...this.things, ...this.extra],
      references: this.references,
      attempts: this.attempts,
    };
  }

  private thing(kind: ThingKind, label: string): void {
    this.things.push({ id: uuidFrom(this.rng), kind, label });
  }

  private nth(kind: ThingKind, index: number): DemoThing {
    const list = this.things.filter((t) => t.kind === kind);
    return list[index % list.length]!;
  }

  /** Both zeros of an instrument, at this instant. An error makes the written value wrong. */
  private setReference(instrument: number, at: number, errorDb: number): DayReference[] {
    return ([1310, 1550] as const).map((wavelengthNm) => {
      const trueDbm = -5 - this.rng() * 0.4 - (wavelengthNm === 1550 ? 0.6 : 0);
      const writtenDbm = Math.round((trueDbm - errorDb) * 100) / 100;
      const id = uuidFrom(this.rng);
      this.references.push({
        id,
        instrumentId: this.nth('instrument', instrument).id,
        method: 'single_cord',
        wavelengthNm,
        valueDbm: writtenDbm.toFixed(2),
        setAt: new Date(at).toISOString(),
        setBy: this.instructors[0]!.id,
        light: 'laser',
      });
      return { id, wavelengthNm, writtenDbm, trueDbm: Math.round(trueDbm * 100) / 100 };
    });
  }

  private courseDay(day: string, dayIndex: number): void {
    const { story } = this.options;
    for (const [half, hour] of [9, 13].entries()) {
      const at = classTime(day, hour, SCENARIO.timeZone);
      const zeros = SCENARIO.instruments.map((_, i) => {
        const bad = story && dayIndex === STORIES.badReferenceDay && i === STORIES.badReferenceInstrument;
        return this.setReference(i, at, bad ? 0.5 : 0);
      });
      this.trainees.forEach((_, trainee) => {
        if (chance(this.rng, 0.03)) return;
        const startedAt = at + 10 * MINUTE + Math.floor(this.rng() * 110) * MINUTE;
        this.piece(trainee, dayIndex, half, startedAt, zeros, Infinity);
      });
    }
  }

  /** The running day: some pieces signed, some benches at work. */
  private today(dayIndex: number): void {
    const now = this.options.now.getTime();
    const zeros = SCENARIO.instruments.map((_, i) => this.setReference(i, now - 3.5 * HOUR, 0));
    this.trainees.forEach((_, trainee) => {
      if (trainee % 3 !== 1)
        this.piece(trainee, dayIndex, 0, now - 3 * HOUR + trainee * MINUTE, zeros, Infinity);
    });
    const steps = [4, 9, 13, 17, 20, 7, 11];
    steps.forEach((count, i) => {
      const trainee = (i * 2 + 1) % this.trainees.length;
      this.piece(trainee, dayIndex, 1, now - (12 + count * 1.4) * MINUTE, zeros, count);
    });
  }

  private piece(
    trainee: number,
    dayIndex: number,
    half: number,
    startedAt: number,
    zeros: readonly DayReference[][],
    steps: number,
  ): void {
    const { rng } = this;
    const { story } = this.options;
    const number = (this.made[trainee] = this.made[trainee]! + 1);
    // Tools go round, so that a tool's effect is not a person's.
    const cleaver = (trainee + dayIndex + half) % SCENARIO.cleavers.length;
    const instrument = (trainee + 2 * dayIndex) % SCENARIO.instruments.length;
    const hand = this.hands[trainee]!.at(number - 1);
    const wear = this.cleaverWear(cleaver, dayIndex);
    const made = makeConnector(hand, { cleaverWear: wear }, rng);
    const piece = this.stuck(trainee, dayIndex)
      ? { ...made, cleaveAngleDeg: made.cleaveAngleDeg + 1.2 }
      : made;
    const instructor = this.instructors[(trainee + half) % this.instructors.length]!;
    const deviceId = this.devices[(trainee + half) % this.devices.length]!;
    const entries = scorePiece(
      this.options.sheet,
      {
        hand,
        piece,
        misjudges: story && trainee === STORIES.callsFacesWrong ? STORIES.misjudges : null,
        references: zeros[instrument]!,
        authorId: instructor.id,
        deviceId,
        startedAt,
      },
      rng,
      steps,
    );
    const open = steps !== Infinity;
    const ended = open ? startedAt : Date.parse(entries[entries.length - 1]!.at) + 20_000;
    const cut = !open && chance(rng, 0.008);
    const asVoid = !open && !cut && chance(rng, 0.006);
    this.attempts.push({
      id: uuidFrom(rng),
      methodId: this.options.sheet.id,
      traineeId: this.trainees[trainee]!.id,
      pieceId: uuidFrom(rng),
      pieceLabel: `${initials(this.trainees[trainee]!.name)}-${String(number).padStart(2, '0')}`,
      thingIds: [
        this.nth('bench', trainee).id,
        this.nth('cleaver', cleaver).id,
        this.nth('scope', trainee).id,
        this.nth('instrument', instrument).id,
        this.nth('cord', instrument).id,
      ],
      startedAt: new Date(startedAt).toISOString(),
      deviceId,
      startedBy: instructor.id,
      entries: cut ? entries.slice(0, 14) : entries,
      sign: open
        ? null
        : {
            by: instructor.id,
            at: new Date(Math.min(ended, this.options.now.getTime())).toISOString(),
            reason: cut ? 'Fire drill, bench cleared' : asVoid ? 'Wedge unit broken out of the bag' : null,
            asVoid,
          },
    });
  }

  /** Afternoons by other methods, each from a generator of its own. */
  private sessions(days: readonly string[]): void {
    const { seed, story, others } = this.options;
    for (const [index, session] of SESSIONS.entries()) {
      const sheet = others?.get(session.method);
      const day = days[session.day];
      if (!sheet || day === undefined) continue;
      const made = makeSession(
        session,
        sheet,
        day,
        {
          trainees: this.trainees,
          instructors: this.instructors,
          things: [...this.things, ...this.extra],
          devices: this.devices,
          timeZone: SCENARIO.timeZone,
          handOf: (trainee) => this.hands[trainee]!.at(session.day * 2),
          misjudging: story ? STORIES.callsFacesWrong : null,
          addedJointDb: () => 0,
          stopped: story ? STORIES.stopped : null,
        },
        seed + 2003 * (index + 1),
      );
      this.attempts.push(...made.attempts);
      this.references.push(...made.references);
    }
  }

  /** Whose cleaves went wrong again at the end of the course, whatever chance did before. */
  private stuck(trainee: number, dayIndex: number): boolean {
    return this.options.story && trainee === STORIES.stuckOnCleaving && dayIndex >= COURSE_DAYS - 1;
  }

  /** One blade goes blunt from the second week on. */
  private cleaverWear(cleaver: number, dayIndex: number): number {
    if (!this.options.story || cleaver !== STORIES.bluntCleaver) return 1;
    return 1 + Math.max(0, dayIndex - 6) * 0.16;
  }
}
