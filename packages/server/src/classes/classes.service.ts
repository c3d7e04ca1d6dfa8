import { checkPolicy, DEFAULT_POLICY, type Policy } from '@clear-mark/core';
import type { ClassDetail, ClassSummary, Person, Role, Thing } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { createOnce } from '../database/create-once.ts';
import { AppError } from '../http/app-error.ts';
import { methodVersion } from '../methods/index.ts';
import { peopleService } from '../people/index.ts';
import { classForInstructor } from './access.ts';
import { classesStore } from './classes.store.ts';
import { linksStore } from './links.store.ts';

interface NewMember {
  readonly role: 'instructor' | 'trainee';
  readonly personId: string;
  readonly newPerson: { readonly name: string } | null;
}

/** What each role may be in a class; a lead may teach. */
const MAY_BE: Readonly<Record<Role, readonly string[]>> = {
  lead: ['instructor'],
  instructor: ['instructor'],
  trainee: ['trainee'],
};

export const classesService = (db: Database) => {
  const store = classesStore(db);
  return {
    list: (me: Person): Promise<ClassSummary[]> => (me.role === 'lead' ? store.all() : store.ofMember(me.id)),

    detail: async (classId: string, me: Person): Promise<ClassDetail> => {
      const found = await classForInstructor(db, classId, me);
      const [instructors, trainees, things, methods, links] = await Promise.all([
        store.members(classId, 'instructor'),
        store.trainees(classId),
        store.things(classId),
        store.methods(classId),
        linksStore(db).ofClass(classId),
      ]);
      return { ...found, instructors, trainees, things, methods, links };
    },

    add: async (summary: ClassSummary, me: Person): Promise<ClassSummary> => {
      if (summary.endsOn < summary.startsOn) throw new AppError('class.dates_crossed');
      if (!(await store.knowsTimeZone(summary.timeZone))) {
        throw new AppError('class.bad_time_zone', { timeZone: summary.timeZone });
      }
      const make = (): Promise<ClassSummary> =>
        db.transaction(async (trx) => {
          const inside = classesStore(trx);
          await inside.insert(summary, DEFAULT_POLICY);
          await inside.addMember(summary.id, me.id, 'instructor');
          return summary;
        });
      return createOnce(
        make,
        () => store.byId(summary.id),
        (there) =>
          (['name', 'place', 'timeZone', 'startsOn', 'endsOn'] as const).every(
            (k) => there[k] === summary[k],
          ),
      );
    },

    addMember: async (classId: string, member: NewMember, me: Person): Promise<Person> => {
      await classForInstructor(db, classId, me);
      return db.transaction(async (trx) => {
        const person = await memberPerson(trx, member);
        if (!MAY_BE[person.role].includes(member.role)) {
          throw new AppError('class.wrong_role', {
            name: person.name,
            role: person.role,
            wanted: member.role,
          });
        }
        if ((await classesStore(trx).memberRole(classId, person.id)) !== null) {
          // A new person who was sent twice is there as sent.
          if (member.newPerson?.name === person.name) return person;
          throw new AppError('class.already_member', { name: person.name });
        }
        await classesStore(trx).addMember(classId, person.id, member.role);
        return person;
      });
    },

    setGroup: async (classId: string, traineeId: string, group: string, me: Person): Promise<void> => {
      await classForInstructor(db, classId, me);
      if (!(await store.setGroup(classId, traineeId, group))) throw new AppError('not_found.person');
    },

    addThing: async (classId: string, thing: Omit<Thing, 'retired'>, me: Person): Promise<Thing> => {
      await classForInstructor(db, classId, me);
      return createOnce(
        async () => {
          await store.insertThing(classId, thing);
          return { ...thing, retired: false };
        },
        async () => {
          const there = (await store.things(classId)).find((t) => t.id === thing.id);
          if (!there) throw new AppError('thing.label_taken', { label: thing.label });
          return there;
        },
        (there) => there.kind === thing.kind && there.label === thing.label,
      );
    },

    retireThing: async (classId: string, thingId: string, retired: boolean, me: Person): Promise<Thing> => {
      await classForInstructor(db, classId, me);
      const thing = await store.retireThing(classId, thingId, retired);
      if (!thing) throw new AppError('not_found.thing');
      return thing;
    },

    useMethod: async (classId: string, versionId: string, inUse: boolean, me: Person): Promise<void> => {
      await classForInstructor(db, classId, me);
      const version = await methodVersion(db, versionId);
      if (version?.state !== 'in_force') throw new AppError('not_found.method_version');
      await store.useMethod(classId, versionId, inUse);
    },

    setPolicy: async (classId: string, policy: Policy, me: Person): Promise<void> => {
      await classForInstructor(db, classId, me);
      await store.setPolicy(classId, checkPolicy(policy));
    },
  };
};

/** A trainee who is new to the school gets a person without a password; the lead can give one later. */
async function memberPerson(db: Database, member: NewMember): Promise<Person> {
  const people = peopleService(db);
  const there = await people.byId(member.personId);
  if (there) return there;
  if (!member.newPerson || member.role !== 'trainee') throw new AppError('not_found.person');
  const login = `t-${member.personId.replaceAll('-', '').slice(0, 30)}`;
  return people.add({
    id: member.personId,
    name: member.newPerson.name,
    login,
    role: 'trainee',
    password: null,
  });
}
