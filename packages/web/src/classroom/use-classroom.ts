import { dayIn } from '@clear-mark/core';
import type { ClassDetail } from '@clear-mark/contract';
import { defineStore } from 'pinia';
import { Refusal, request, ROUTES } from '../api/client.ts';
import { classChanged } from '../api/queries.ts';
import { useSession } from '../session/session.ts';
import { deviceStore } from '../storage/device-store.ts';
import { classCopy } from './class-copy.ts';
import { classQuestion } from './class-question.ts';
import { classReplies } from './class-replies.ts';
import { classState } from './class-state.ts';
import { classStream } from './class-stream.ts';
import { kept, knownOf } from './classroom.model.ts';
import { sheetShelf } from './sheet-shelf.ts';

export type { ConnectionState } from './class-state.ts';

/**
 * The class that is taught on this device: its benches, open attempts and sheets, kept on the device and up to date
 * by sequence. A stream rings when something changed; what changed is asked for, so that a lost, late or doubled ring
 * does no harm. Everything here is readable without a network.
 */
export const useClassroom = defineStore('classroom', () => {
  const session = useSession();
  const shelf = sheetShelf();
  const state = classState();
  const { classId, detail, day, tiles, attempts, references, connection, refusal } = state;

  const question = classQuestion({
    classId: () => classId.value,
    knowsNothing: () => tiles.value === null,
    put: catchUp,
    failed: (error) => {
      if (error instanceof Refusal) refusal.value = error;
      connection.value = 'away';
    },
  });
  const { ask } = question;
  const copy = classCopy(state.forDevice);
  const replies = classReplies(state, copy);
  const stream = classStream(
    (withClass) => {
      if (withClass) {
        question.wantWhole();
        classChanged(classId.value);
      }
      void ask();
    },
    (news) => {
      if (!replies.hear(news)) void ask();
    },
    () => classChanged(classId.value),
  );
  let opening: Promise<void> = Promise.resolve();

  /** Follows a class. Resolved when it is known, from the device or from the server, or cannot be. */
  function open(id: string): Promise<void> {
    if (classId.value !== id || id === '') opening = begin(id);
    return opening;
  }
  async function begin(id: string): Promise<void> {
    close();
    classId.value = id;
    if (id === '') return;
    const known = await deviceStore.classCopy(id).catch(() => null);
    if (classId.value !== id) return;
    if (known) {
      detail.value = known.detail;
      day.value = known.day;
      tiles.value = known.tiles;
      references.value = known.references;
      await shelf.needAll(known.attempts.map((a) => a.methodVersionId)).catch(() => undefined);
      attempts.value = new Map(known.attempts.map((a) => [a.id, kept(a)]));
    }
    stream.open(id);
    // A copy is as old as the last visit: trainees, tools and methods may be others by now.
    question.wantWhole();
    await ask();
  }

  function close(): void {
    stream.close();
    copy.close();
    state.clear();
  }

  /**
   * The class itself was changed here: trainees, tools, methods. What the change was answered with holds at once, so
   * that a sheet which is opened next does not judge by what was before; the rest is asked for again.
   */
  function renew(changed: ClassDetail | null = null): void {
    if (changed?.id === classId.value) detail.value = changed;
    question.wantWhole();
    void ask();
  }

  async function catchUp(id: string, all: boolean): Promise<void> {
    const known = knownOf(attempts.value, replies.startedHere());
    const askClass = (): Promise<ClassDetail> => request(ROUTES.classDetail, { params: { id } });
    // Where the class is asked for in any case, both are asked at once.
    const [reply, alongside] = await Promise.all([
      request(ROUTES.catchUp, { params: { id }, body: { known, afresh: all } }),
      all ? askClass() : null,
    ]);
    if (classId.value !== id) return;
    if (all || detail.value === null || reply.tiles !== null) {
      const said = alongside ?? (await askClass());
      // Changed here while it was asked for: it is asked for again, and what came may be older than the change.
      if (!question.wantsWhole() || detail.value === null) detail.value = said;
    }
    await shelf.needAll(reply.attempts.map((a) => a.methodVersionId));
    if (classId.value !== id) return;
    if (!(await replies.put(reply))) question.askAgain();
    if (classId.value !== id) return;
    refusal.value = null;
    connection.value = stream.heardLately() ? 'live' : 'asking';
    // Those of the methods in use as well: a piece may be started by any of them without a network.
    const inUse = (detail.value?.methods ?? []).filter((m) => m.inUse);
    void shelf.needAll(inUse.map((m) => m.versionId)).catch(() => undefined);
  }

  window.addEventListener('online', () => {
    if (classId.value !== '') stream.open(classId.value);
    void ask();
  });
  // What a stream still brings while the device says that it has no network is no state to rely on.
  window.addEventListener('offline', () => {
    stream.close();
    connection.value = 'away';
  });

  /** The class's day: as the server told it last, by its zone before that. */
  const today = (): string => day.value || dayIn(session.zoneOf(classId.value), new Date());

  return {
    classId,
    detail,
    day,
    today,
    tiles,
    attempts,
    references,
    connection,
    offsetMs: state.offsetMs,
    refusal,
    open,
    close,
    ask,
    renew,
    adopt: replies.adopt,
    addReference: replies.addReference,
    sheetFor: shelf.sheetFor,
  };
});
