import { type MethodSheet, pieceSteps, type Skill, thingsInOrder } from '@clear-mark/core';
import type { DayMethod, Person, Timed } from '@clear-mark/contract';
import { classesStore, classForInstructor } from '../classes/index.ts';
import { workIn } from '../course/index.ts';
import type { Database } from '../database/database.ts';
import { methodVersion } from '../methods/index.ts';
import { daysStore } from './days.store.ts';

/** Fewer timed pieces say nothing: of one trainee, and of the class. */
const LEAST_TIMED = { trainee: 3, class: 5 };

/** The methods in use as a day is planned with them: steps, what they use up, and how long pieces took. */
export async function dayMethods(db: Database, classId: string, me: Person): Promise<DayMethod[]> {
  await classForInstructor(db, classId, me);
  const classes = classesStore(db);
  const kinds = thingsInOrder((await classes.things(classId)).filter((t) => !t.retired).map((t) => t.kind));
  const timed = await daysStore(db).timed(classId);
  const used = (await classes.methods(classId)).filter((m) => m.inUse);
  const workOf = await workIn(db, classId);
  const found: DayMethod[] = [];
  for (const { versionId, methodId, title } of used) {
    const version = await methodVersion(db, versionId);
    if (!version) continue;
    const work = workOf(methodId);
    const { steps, placeOf } = pieceSteps(version.sheet, new Set([...kinds, 'splicer']), work.cure);
    const times = timed.filter((t) => t.methodId === methodId);
    const ofClass = times.find((t) => t.traineeId === null);
    const ofTrainees = times.filter((t) => t.traineeId !== null && t.n >= LEAST_TIMED.trainee);
    found.push({
      versionId,
      methodId,
      title,
      skills: skillsByWeight(version.sheet),
      steps: [...steps],
      places: version.sheet.steps.map((s) => placeOf.get(s.id) ?? 0),
      glueStep: work.glueStep === null ? null : (placeOf.get(work.glueStep) ?? null),
      needs: Object.entries(work.items).map(([item, uses]) => ({ item, uses })),
      class: ofClass && ofClass.n >= LEAST_TIMED.class ? timedOf(ofClass) : null,
      trainees: Object.fromEntries(ofTrainees.map((t) => [t.traineeId!, timedOf(t)])),
    });
  }
  return found;
}

const timedOf = ({ n, median, from, to }: Timed): Timed => ({ n, median, from, to });

function skillsByWeight({ steps }: MethodSheet): Skill[] {
  const weights = new Map<Skill, number>();
  for (const step of steps) weights.set(step.skill, (weights.get(step.skill) ?? 0) + step.criteria.length);
  return [...weights].sort((a, b) => b[1] - a[1]).map((w) => w[0]);
}
