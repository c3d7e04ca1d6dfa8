import type { FaceCriteria, FaceReview, MeasuredFace, MeasuredRow, Call, FaceFault } from '@clear-mark/core';
import { NO_REVIEW } from '@clear-mark/core';
import type { FaceDocument } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { ref, shallowRef } from 'vue';
import { request, NoServer, ROUTES, sendPicture, wordsOf } from '../../../api/client.ts';
import type { FaceView } from '../engine/face-orders.ts';
import type { ShownFace } from './use-face.ts';

export interface FaceToKeep {
  readonly face: ShownFace;
  readonly found: MeasuredFace | MeasuredRow;
  readonly view: FaceView;
  readonly table: FaceCriteria;
  readonly attemptId: string | null;
  readonly traineeId: string | null;
  readonly beforeId: string | null;
  readonly faults: readonly FaceFault[];
}

const NOT_SENT =
  'The server does not answer. The picture stays on this page; keep it when the server is back.';

/** The review of the picture on the page, and its way to the server: first the picture, then what was made of it. */
export function useKeptFace(classId: () => string) {
  const review = shallowRef<FaceReview>(NO_REVIEW);
  const traineeSaid = ref<Call | null>(null);
  const kept = shallowRef<FaceDocument | null>(null);
  const changed = ref(false);
  const busy = ref(false);
  const failure = ref<string | null>(null);
  // The same ids when a send is tried again, so that nothing is there twice.
  let faceId = v7();
  let gradingId = v7();

  function begin(): void {
    [faceId, gradingId] = [v7(), v7()];
    review.value = NO_REVIEW;
    traineeSaid.value = null;
    [kept.value, changed.value, failure.value] = [null, false, null];
  }
  /** A kept picture is looked at again. */
  function open(document: FaceDocument): void {
    begin();
    kept.value = document;
    review.value = document.grading?.review ?? NO_REVIEW;
    traineeSaid.value = document.grading?.traineeSaid ?? null;
  }
  function revise(next: FaceReview): void {
    review.value = next;
    touch();
  }
  function say(said: Call | null): void {
    traineeSaid.value = said;
    touch();
  }
  function touch(): void {
    changed.value = true;
    gradingId = v7();
  }

  async function keep(what: FaceToKeep | null): Promise<boolean> {
    if (busy.value) return false;
    busy.value = true;
    failure.value = null;
    try {
      if (!kept.value && what) kept.value = await add(what);
      if (changed.value && kept.value) await grade(kept.value.id);
      changed.value = false;
      return true;
    } catch (error) {
      failure.value = error instanceof NoServer ? NOT_SENT : wordsOf(error);
      return false;
    } finally {
      busy.value = false;
    }
  }
  async function add({ face, found, table, ...rest }: FaceToKeep): Promise<FaceDocument> {
    const sha256 = await sendPicture(classId(), face.picture);
    return request(ROUTES.addFace, {
      params: { id: classId() },
      body: {
        id: faceId,
        sha256,
        label: face.name.slice(0, 120),
        width: face.width,
        height: face.height,
        source: face.source,
        view: rest.view,
        takenAt: new Date().toISOString(),
        attemptId: rest.attemptId,
        traineeId: rest.traineeId,
        beforeId: rest.beforeId,
        faults: [...rest.faults],
        engine: found,
        table,
      },
    });
  }
  async function grade(id: string): Promise<void> {
    await request(ROUTES.gradeFace, {
      params: { id: classId(), faceId: id },
      body: { id: gradingId, review: review.value, traineeSaid: traineeSaid.value },
    });
  }
  return { review, traineeSaid, kept, changed, busy, failure, begin, open, revise, say, keep };
}
