import { faceCriteria, type FaceCriteria, type MeasuredFace, type FaceFault } from '@clear-mark/core';

import { type FaceState, shuffled } from '@clear-mark/sim';
import { v7 } from 'uuid';
import { ref } from 'vue';
import { request, ROUTES, sendPicture, wordsOf } from '../../../api/client.ts';
import { faceClient } from '../engine/face-client.ts';
import type { FaceOrder, StandInPicture } from '../engine/face-orders.ts';
import { useStandIn } from '../inspect/use-stand-in.ts';

/** States of the ends of a series: half of them near a limit, where the eye is tested. */
const STATES: readonly FaceState[] = [
  'near_limit',
  'mixed',
  'near_limit',
  'scratched',
  'clean',
  'near_limit',
  'dirty',
  'chipped',
  'cracked',
];
/** Ends that are tried for each that is wanted, until good and bad are in balance. */
const TRIES = 6;

export interface SeriesOrder {
  readonly label: string;
  readonly faces: number;
  readonly missWeight: number;
  readonly secondsEach: number | null;
}

/**
 * Makes a series from the simulated microscope: ends are drawn until half of them are good and half bad by the flat
 * single-mode table, kept as pictures of the class with what they are, and set as a series.
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
    try {
      const pictures = await balanced(order.faces);
      if (pictures === null) return false;
      const ids: string[] = [];
      for (const picture of pictures) {
        if (stopped) return false;
        ids.push(await keepEnd(classId(), picture, order.label));
        done.value = order.faces / 2 + ids.length / 2;
      }
      await set(order, ids);
      return true;
    } catch (error) {
      failure.value = wordsOf(error);
      return false;
    } finally {
      done.value = null;
    }
  }
  async function balanced(faces: number): Promise<StandInPicture[] | null> {
    const of = { pass: [] as StandInPicture[], fail: [] as StandInPicture[] };
    const wanted = { fail: Math.floor(faces / 2), pass: Math.ceil(faces / 2) };
    const first = Math.floor(Math.random() * 1e6);
    for (let i = 0; i < TRIES * faces; i++) {
      if (stopped) return null;
      if (of.pass.length >= wanted.pass && of.fail.length >= wanted.fail) break;
      const state = STATES[i % STATES.length]!;
      const picture = await standIn.take({
        seed: first + i,
        state,
        loose: 1,
        shot: 0,
        kind: 'single_mode',
        height: 480,
      });
      if (of[picture.verdict].length < wanted[picture.verdict]) of[picture.verdict].push(picture);
      done.value = (of.pass.length + of.fail.length) / 2;
    }
    return shuffled(Math.random, [...of.pass, ...of.fail]);
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
async function keepEnd(classId: string, picture: StandInPicture, label: string): Promise<string> {
  const id = v7();
  const sha256 = await sendPicture(classId, picture.png);
  const table = faceCriteria('sm-pc')!;
  const engine = await measuredBy(picture, table);
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
      table,
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

function measuredBy(picture: StandInPicture, table: FaceCriteria): Promise<MeasuredFace> {
  const order: FaceOrder = { picture: picture.png, name: 'end', view: 'single', table };
  const worker = faceClient();
  return new Promise<MeasuredFace>((resolve, reject) => {
    worker.ask(
      order,
      (news) => {
        if (news.news === 'done') resolve(news.found as MeasuredFace);
        else if (news.news === 'problem') reject(new Error(news.problem));
      },
      (words) => reject(new Error(`The picture could not be measured: ${words}`)),
    );
  }).finally(() => worker.end());
}
