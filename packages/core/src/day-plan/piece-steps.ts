import {
  type Criterion,
  isWorkedOut,
  type MethodSheet,
  type Skill,
  type Step,
  type ThingKind,
} from '../sheet/index.ts';
import type { OvenWay, PieceStep } from './types.ts';

/** What a method does in an oven, by the id of the sheet's step. */
export interface CureOfMethod {
  readonly step: string;
  readonly minutes: number;
  /** Minutes after it until the piece may be touched. */
  readonly coolMinutes: number;
  readonly way: OvenWay;
}
/** A piece as steps of a day. */
export interface PlannedMethod {
  readonly steps: readonly PieceStep[];
  /** Which of them a step of the sheet is in, by its id. */
  readonly placeOf: ReadonlyMap<string, number>;
}

/** Minutes of a step before anything is scored; house. */
const STEP_MINUTES = 1.5;
/** Minutes that scoring one criterion takes at the bench, by its kind; house. */
const MINUTES_OF: Readonly<Record<Criterion['kind'], number>> = {
  check: 0.5,
  measure: 1,
  count: 0.5,
  timed: 0,
  grade: 1,
  readings: 1,
  loss: 1,
  map: 0.25,
  call: 1,
};
/** So long an instructor looks at what decides, for each such criterion; house. */
const WATCH_MINUTES = 0.5;
/** Timed pieces that differ more from the sheet than this are taken for slips of a clock. */
const SPEEDS = { least: 0.4, most: 4 };
const STATION_OF: Readonly<Partial<Record<Skill, ThingKind>>> = {
  splice: 'splicer',
  cleave: 'cleaver',
  inspect: 'scope',
  test: 'instrument',
};

/**
 * A piece of a method as steps of a day: steps of the sheet that follow each other at one place are one; its oven is a step of its own. A
 * step waits for equipment of a kind that is `shared`. An instructor watches the end of a step for what is critical in it. Minutes go
 * by the sheet (house figures); whole, at least one.
 */
export function pieceSteps(
  sheet: MethodSheet,
  shared: ReadonlySet<ThingKind>,
  cure: CureOfMethod | null,
): PlannedMethod {
  const blocks: { station: ThingKind | null; steps: Step[]; cures: boolean }[] = [];
  const placeOf = new Map<string, number>();
  for (const step of sheet.steps) {
    const kind = STATION_OF[step.skill];
    const cures = cure?.step === step.id;
    const station = !cures && kind && shared.has(kind) && sheet.thingsUsed.includes(kind) ? kind : null;
    const last = blocks.at(-1);
    if (last && !cures && !last.cures && last.station === station) last.steps.push(step);
    else blocks.push({ station, steps: [step], cures });
    placeOf.set(step.id, blocks.length - 1);
  }
  const steps = blocks.map(({ station, steps: inside, cures }): PieceStep => {
    const name = inside[0]!.title;
    if (cures && cure) {
      const { minutes, coolMinutes: cool, way } = cure;
      return { kind: 'cure', name, minutes, cool, schedule: `${minutes} min`, way };
    }
    const minutes = Math.max(1, Math.round(inside.reduce((sum, s) => sum + minutesOf(s), 0)));
    const decisive = inside.flatMap((s) => s.criteria).filter((c) => c.critical && !c.acceptsTrainee);
    const watched = Math.min(minutes, Math.ceil(decisive.length * WATCH_MINUTES));
    return { kind: 'work', name, minutes, station, watched };
  });
  return { steps, placeOf };
}

/**
 * The same steps for somebody whose pieces took so many minutes as a whole, the oven included: work is stretched or shortened, to no less
 * than 0.4 and no more than 4 times, what is watched and the oven stay. Example: 10 and 20 minutes of work, timed at 45, are 15 and 30.
 */
export function stretchedTo(steps: readonly PieceStep[], minutes: number): PieceStep[] {
  const hands = steps.reduce((sum, s) => sum + (s.kind === 'work' ? s.minutes : 0), 0);
  const waits = steps.reduce((sum, s) => sum + (s.kind === 'cure' ? s.minutes + (s.cool ?? 0) : 0), 0);
  if (hands === 0) return [...steps];
  const speed = Math.min(SPEEDS.most, Math.max(SPEEDS.least, (minutes - waits) / hands));
  return steps.map((s) =>
    s.kind === 'cure' ? s : { ...s, minutes: Math.max(1, s.watched, Math.round(s.minutes * speed)) },
  );
}

function minutesOf({ criteria }: Step): number {
  return criteria.reduce((sum, c) => sum + partsOf(c) * MINUTES_OF[c.kind] + secondsOf(c) / 60, STEP_MINUTES);
}
function partsOf(criterion: Criterion): number {
  if (isWorkedOut(criterion)) return 0;
  if (criterion.kind === 'map') return criterion.ports;
  if (criterion.kind !== 'loss' && criterion.kind !== 'readings') return 1;
  const { fibers = 1, wavelengthsNm = [0], directions = [0] } = criterion;
  return fibers * wavelengthsNm.length * directions.length;
}
/** What a timed step takes: its lower limit, else half its upper one. */
function secondsOf(criterion: Criterion): number {
  if (criterion.kind !== 'timed') return 0;
  const { lower, upper } = criterion.band;
  return lower ? Number(lower.value) : upper ? Number(upper.value) / 2 : 0;
}
