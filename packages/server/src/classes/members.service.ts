import type { Person, Role, RosterBody } from '@clear-mark/contract';
import { record } from '../audit/index.ts';
import type { Database } from '../database/database.ts';
import { oneAtATime } from '../database/locks.ts';
import { AppError } from '../errors/app-error.ts';
import { peopleService, placeholderLogin } from '../people/index.ts';
import { classForInstructor } from './access.ts';
import { classesStore } from './classes.store.ts';

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

/** Who is in a class, and in which group. */
export const membersService = (db: Database) => {
  const store = classesStore(db);
  return {
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
        await record(trx, {
          kind: 'class_joined',
          by: me.id,
          person: person.id,
          classId,
          detail: member.role,
        });
        return person;
      });
    },

    /**
     * All people of a roster, with their groups, or none of them. Errors: `class.already_member`, `class.wrong_role`,
     * `not_found.person`.
     */
    addRoster: (classId: string, { people }: RosterBody, me: Person): Promise<{ added: number }> =>
      oneAtATime(db, 'class', classId, async (trx) => {
        await classForInstructor(trx, classId, me);
        const inside = classesStore(trx);
        for (const { personId, newPerson, group } of people) {
          const person = await memberPerson(trx, { role: 'trainee', personId, newPerson });
          const { name, role } = person;
          if (role !== 'trainee') throw new AppError('class.wrong_role', { name, role, wanted: 'trainee' });
          if ((await inside.memberRole(classId, personId)) !== null)
            throw new AppError('class.already_member', { name });
          await inside.addMember(classId, personId, 'trainee');
          if (group !== '') await inside.setGroup(classId, personId, group);
        }
        const detail = `${people.length} trainees of a roster`;
        await record(trx, { kind: 'class_joined', by: me.id, classId, detail });
        return { added: people.length };
      }),

    /** Errors: `not_found.person`, `class.open_attempts`, `class.last_instructor`. */
    leave: (classId: string, personId: string, me: Person): Promise<void> =>
      oneAtATime(db, 'class', classId, async (trx) => {
        await classForInstructor(trx, classId, me);
        const inside = classesStore(trx);
        const role = await inside.memberRole(classId, personId);
        if (role === null) throw new AppError('not_found.person');
        if (role === 'instructor' && (await inside.members(classId, 'instructor')).length === 1)
          throw new AppError('class.last_instructor');
        const pieces = await inside.openPieces(classId, personId);
        if (pieces.length > 0) {
          const { name } = (await peopleService(trx).byId(personId)) ?? { name: '' };
          throw new AppError('class.open_attempts', { name, pieces: pieces.slice(0, 5).join(', ') });
        }
        await inside.leave(classId, personId);
        await record(trx, { kind: 'class_left', by: me.id, person: personId, classId, detail: role });
      }),

    setGroup: async (classId: string, traineeId: string, group: string, me: Person): Promise<void> => {
      await classForInstructor(db, classId, me);
      if (!(await store.setGroup(classId, traineeId, group))) throw new AppError('not_found.person');
    },
  };
};

/** A trainee who is new to the school gets a person without a password; the lead can give one later. */
async function memberPerson(db: Database, member: NewMember): Promise<Person> {
  const people = peopleService(db);
  const there = await people.byId(member.personId);
  if (there) return there;
  if (!member.newPerson || member.role !== 'trainee') throw new AppError('not_found.person');
  return people.add({
    id: member.personId,
    name: member.newPerson.name,
    login: placeholderLogin(member.personId),
    role: 'trainee',
    password: null,
  });
}
