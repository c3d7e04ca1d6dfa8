import { dayIn, type Skill } from '@clear-mark/core';
import type { Certificate, CertificateState, Person } from '@clear-mark/contract';
import { record } from '../audit/index.ts';
import { classesStore, classForInstructor } from '../classes/index.ts';
import { createOnce } from '../database/create-once.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { readableCode, triesOf } from '../people/index.ts';
import { certificatesStore } from './certificates.store.ts';

/** Twelve signs of thirty are 59 bits: with tries that wait nobody finds one. */
const CODE_LENGTH = 12;

interface Asked {
  readonly id: string;
  readonly traineeId: string;
  readonly skills: readonly Skill[];
}

export const certificatesService = (db: Database, now: () => Date) => ({
  ofClass: async (classId: string, traineeId: string | undefined, me: Person): Promise<Certificate[]> => {
    await classForInstructor(db, classId, me);
    return certificatesStore(db).ofClass(classId, traineeId, now());
  },
  ofPerson: (me: Person): Promise<Certificate[]> => certificatesStore(db).ofPerson(me.id, now()),

  /**
   * Certifies the skills that a trainee is signed off in at present, with the rule, the evidence and the methods of each
   * sign-off. It holds until the first of them lapses. Errors: `not_found.person`, `certificate.not_signed_off`.
   */
  issue: (classId: string, { id, traineeId, skills }: Asked, me: Person): Promise<Certificate> =>
    createOnce(
      () =>
        db.transaction(async (trx) => {
          const { timeZone } = await classForInstructor(trx, classId, me);
          if ((await classesStore(trx).memberRole(classId, traineeId)) !== 'trainee')
            throw new AppError('not_found.person');
          const store = certificatesStore(trx);
          const at = now();
          const there = await store.signedOff(classId, traineeId, dayIn(timeZone, at));
          const wanted = there.filter((s) => skills.includes(s.skill));
          const missing = skills.find((skill) => !there.some((s) => s.skill === skill));
          if (missing !== undefined) throw new AppError('certificate.not_signed_off', { skill: missing });
          await store.insert({
            id,
            classId,
            traineeId,
            code: readableCode(CODE_LENGTH),
            skills: wanted.map(({ attemptIds: _, ...s }) => s),
            attemptIds: [...new Set(wanted.flatMap((s) => s.attemptIds))],
            validUntil: wanted.map((s) => s.lapsesOn).sort()[0]!,
            by: me.id,
            at,
          });
          const detail = wanted.map((s) => s.skill).join(', ');
          await record(trx, { kind: 'certificate_issued', by: me.id, person: traineeId, classId, detail });
          return (await store.byId(classId, id, at))!;
        }),
      () => certificatesStore(db).byId(classId, id, now()),
      (there) =>
        there.traineeId === traineeId &&
        there.skills
          .map((s) => s.skill)
          .sort()
          .join() === [...skills].sort().join(),
    ),

  withdraw: (classId: string, id: string, reason: string, me: Person): Promise<Certificate> =>
    db.transaction(async (trx) => {
      await classForInstructor(trx, classId, me);
      const store = certificatesStore(trx);
      const there = await store.byId(classId, id, now());
      if (!there) throw new AppError('not_found.certificate');
      if (await store.withdraw(id, me.id, now(), reason))
        await record(trx, { kind: 'certificate_withdrawn', by: me.id, person: there.traineeId, classId });
      return (await store.byId(classId, id, now()))!;
    }),

  /** How a certificate stands, for anybody who has its code. Errors: `not_found.certificate`, `auth.throttled`. */
  verify: (code: string, address: string): Promise<{ state: CertificateState }> =>
    triesOf(db).byAddress(address, 'not_found.certificate', async () => {
      const there = await certificatesStore(db).byCode(code, now());
      if (!there) throw new AppError('not_found.certificate');
      return { state: there.state };
    }),
});
