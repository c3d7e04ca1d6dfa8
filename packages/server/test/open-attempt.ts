import type { AttemptDocument, EntryReceipt, Person } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { afterAll, beforeAll, beforeEach, expect } from 'vitest';
import { attemptBody, batch, type Caller, seen, type TestClass, World } from './harness.ts';

interface ReferenceSet {
  readonly wavelengthsNm: readonly number[];
  readonly method: 'single_cord' | 'one_cord';
  readonly valueDbm: string;
  readonly setAt: string;
}

/** A reference a wavelength, set at the class's instrument: their ids by the wavelength in nm. */
export async function setReferences(
  api: Caller,
  classroom: TestClass,
  more: Partial<ReferenceSet> = {},
): Promise<Record<number, string>> {
  const { wavelengthsNm = [1310, 1550], method = 'single_cord', valueDbm = '-5.00' } = more;
  const made: Record<number, string> = {};
  for (const wavelengthNm of wavelengthsNm) {
    made[wavelengthNm] = v7();
    const reply = await api.post(`/classes/${classroom.id}/references`, {
      id: made[wavelengthNm],
      instrumentId: classroom.things['instrument'],
      method,
      wavelengthNm,
      valueDbm,
      setAt: more.setAt ?? new Date().toISOString(),
      showsNegative: false,
    });
    expect(reply.status).toBe(200);
  }
  return made;
}

/** A class with an instructor and a trainee, an instructor and a trainee of another one, and a fresh open attempt. */
export class OpenAttempt {
  world!: World;
  teacher!: Person;
  other!: Person;
  trainee!: Person;
  stranger!: Person;
  classroom!: TestClass;
  /** As the instructor. */
  api!: Caller;
  attemptId!: string;

  async receiptsOf(caller: Caller, entries: readonly unknown[]): Promise<EntryReceipt[]> {
    const reply = await caller.post('/entries', batch(entries));
    expect(reply.status).toBe(200);
    return (reply.body as { receipts: EntryReceipt[] }).receipts;
  }
  async document(): Promise<AttemptDocument> {
    return (await this.api.get(`/attempts/${this.attemptId}`)).body;
  }
  references(setAt = new Date().toISOString()): Promise<Record<number, string>> {
    return setReferences(this.api, this.classroom, { setAt });
  }
  sign(entryIds: readonly string[], more: object = {}): ReturnType<Caller['post']> {
    return this.api.post(`/attempts/${this.attemptId}/sign`, {
      ...seen(entryIds),
      reason: null,
      asVoid: false,
      ...more,
    });
  }
}

/** To be called once in a file: the class is made before its tests, the attempt before each. */
export function openAttempt(): OpenAttempt {
  const own = new OpenAttempt();
  beforeAll(async () => {
    const world = (own.world = await World.make());
    [own.teacher, own.other, own.trainee, own.stranger] = await Promise.all([
      world.person('instructor'),
      world.person('instructor'),
      world.person('trainee'),
      world.person('trainee'),
    ]);
    own.classroom = await world.classOf([own.teacher], [own.trainee]);
    await world.classOf([own.other], [own.stranger]);
    own.api = await world.signedIn(own.teacher);
  });
  afterAll(() => own.world.close());
  beforeEach(async () => {
    const body = attemptBody(own.classroom);
    own.attemptId = body.id;
    expect((await own.api.post(`/classes/${own.classroom.id}/attempts`, body)).status).toBe(200);
  });
  return own;
}
