import { faceCriteria, type FaceFault, type MeasuredFace } from '@clear-mark/core';

import { type ScopeFace, shuffled } from '@clear-mark/sim';
import { v7 } from 'uuid';
import { ref } from 'vue';
import { request, ROUTES, sendPicture, wordsOf } from '../../../api/client.ts';
import { callFacesClient, faceClient } from '../engine/face-client.ts';
import type { CallFacesOrder, FaceOrder, StandInPicture } from '../engine/face-orders.ts';
import { useStandIn } from '../inspect/use-stand-in.ts';

type FaceEngine = ReturnType<typeof faceClient>;
const TABLE = faceCriteria('sm-pc')!;

export interface SeriesOrder {
  readonly label: string;
  readonly faces: number;
  readonly missWeight: number;
  readonly secondsEach: number | null;
}

/**
 * Makes a series from the simulated microscope: ends are drawn until half of them are good and half bad by the flat
 * single-mode table, and of each half as many near the limit by the probability of their grade; they are kept as pictures
 * of the class with what they are, and set as a series.
 */
export function useSeries(classId: () => string) {
  const standIn = useStandIn();
  const done = ref<number | null>(null);
  const failure = ref<string | null>(null);
  let stopped = false;

  async function fromScope(order: SeriesOrder): Promise<boolean> {
    stopped = false;
    failure.value = null;
    done.value = 0;
    const engine = faceClient();
    try {
      const pictures = await balanced(order.faces);
      if (pictures === null) return false;
      const ids: string[] = [];
      for (const picture of pictures) {
        if (stopped) return false;
        ids.push(await keepEnd(classId(), picture, order.label, engine));
        done.value = order.faces / 2 + ids.length / 2;
      }
      await set(order, ids);
      return true;
    } catch (error) {
      failure.value = wordsOf(error);
      return false;
    } finally {
      engine.end();
      done.value = null;
    }
  }
  async function balanced(faces: number): Promise<StandInPicture[] | null> {
    const chosen = await chosenFaces({ first: Math.floor(Math.random() * 1e6), count: faces });
    const pictures: StandInPicture[] = [];
    for (const face of chosen) {
      if (stopped) return null;
      pictures.push(await standIn.take({ ...face, shot: 0 }));
      done.value = pictures.length / 2;
    }
    return shuffled(Math.random, pictures);
  }
  async function set(order: SeriesOrder, faceIds: readonly string[]): Promise<void> {
    await request(ROUTES.addSeries, {
      params: { id: classId() },
      body: {
        id: v7(),
        faceIds: [...faceIds],
        label: order.label,
        missWeight: order.missWeight,
        secondsEach: order.secondsEach,
      },
    });
  }
  /** From pictures of the class that have a verdict, in an order by chance. */
  async function fromKept(order: SeriesOrder, faceIds: readonly string[]): Promise<boolean> {
    failure.value = null;
    try {
      await set(order, shuffled(Math.random, faceIds));
      return true;
    } catch (error) {
      failure.value = wordsOf(error);
      return false;
    }
  }
  return { done, failure, fromScope, fromKept, stop: () => (stopped = true) };
}

/** Keeps a simulated end as a picture of the class, with what it is. */
async function keepEnd(
  classId: string,
  picture: StandInPicture,
  label: string,
  worker: FaceEngine,
): Promise<string> {
  const id = v7();
  const sha256 = await sendPicture(classId, picture.png);
  const engine = await measured(picture, worker);
  await request(ROUTES.addFace, {
    params: { id: classId },
    body: {
      id,
      sha256,
      label: `${label}, for calls`,
      width: picture.width,
      height: picture.height,
      view: 'single',
      source: 'stand_in',
      takenAt: new Date().toISOString(),
      attemptId: null,
      traineeId: null,
      beforeId: null,
      faults: picture.looks as FaceFault[],
      engine,
      table: TABLE,
    },
  });
  // What the simulated end is, is known: the reference does not hang on the engine.
  await request(ROUTES.gradeFace, {
    params: { id: classId, faceId: id },
    body: {
      id: v7(),
      review: {
        rejected: [],
        kinds: [],
        added: [],
        verdict: { says: picture.verdict, reason: 'as the simulated end was made' },
      },
      traineeSaid: null,
    },
  });
  return id;
}

function measured(picture: StandInPicture, worker: FaceEngine): Promise<MeasuredFace> {
  const order: FaceOrder = { picture: picture.png, name: 'end', view: 'single', table: TABLE };
  return new Promise<MeasuredFace>((resolve, reject) => {
    worker.ask(
      order,
      (news) => {
        if (news.news === 'done') resolve(news.found as MeasuredFace);
        else if (news.news === 'problem') reject(new Error(news.problem));
      },
      (words) => reject(new Error(`The picture could not be measured: ${words}`)),
    );
  });
}

function chosenFaces(order: CallFacesOrder): Promise<readonly ScopeFace[]> {
  const worker = callFacesClient();
  return new Promise<readonly ScopeFace[]>((resolve, reject) => {
    worker.ask(order, resolve, (words) => reject(new Error(`The faces could not be chosen: ${words}`)));
  }).finally(() => worker.end());
}
