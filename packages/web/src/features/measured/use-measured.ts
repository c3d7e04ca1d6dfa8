import type { CleavedEnd, CleaveReading, EntryValue } from '@clear-mark/core';
import type { NewMeasuredPictureBody } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { computed, onUnmounted, ref, shallowRef } from 'vue';
import { NoServer, request, ROUTES, sendPicture, wordsOf } from '../../api/client.ts';
import { PROBLEM_WORDS } from '../../pictures/picture-problems.ts';
import { draggedTo, isStill, type Line, valueOf } from './cleave.model.ts';
import { cleaveClient, cleaveStandInClient } from './measure-clients.ts';
import type { CleaveNews } from './measure-orders.ts';

export interface Shot {
  readonly picture: Blob;
  readonly url: string;
  readonly width: number;
  readonly height: number;
  readonly reading: CleaveReading;
  readonly source: NewMeasuredPictureBody['source'];
}

/** A picture on its way into a sheet: measured in a worker, looked at, its line dragged where it is wrong, kept with the piece. */
export function useMeasured(of: () => { classId: string; attemptId: string; criterionId: string }) {
  const worker = cleaveClient();
  const standIn = cleaveStandInClient();
  const shot = shallowRef<Shot | null>(null);
  const side = ref<'left' | 'right'>('left');
  const dragged = shallowRef<Line | null>(null);
  const busy = ref(false);
  const failure = ref<string | null>(null);
  const isAway = ref(false);
  /** The newest reading of a live picture, before one is held still. */
  const live = shallowRef<CleaveReading | null>(null);
  let id = v7();
  onUnmounted(() => {
    worker.end();
    standIn.end();
    drop();
  });

  const ends = computed((): readonly CleavedEnd[] => (shot.value?.reading.ok ? shot.value.reading.ends : []));
  const end = computed(() => ends.value.find((e) => e.side === side.value) ?? null);
  const value = computed(() => end.value && valueOf(end.value, dragged.value));

  function drop(): void {
    if (shot.value) URL.revokeObjectURL(shot.value.url);
    shot.value = null;
    dragged.value = null;
    live.value = null;
    failure.value = null;
    isAway.value = false;
    id = v7();
  }
  const measured = (picture: Blob): Promise<CleaveNews> =>
    new Promise((resolve, reject) => worker.ask({ picture }, resolve, (words) => reject(new Error(words))));

  async function take(picture: Blob, name: string, source: Shot['source']): Promise<void> {
    drop();
    busy.value = true;
    try {
      const found = await measured(picture);
      if ('problem' in found) failure.value = PROBLEM_WORDS[found.problem](name);
      else show(picture, found, source);
    } catch {
      failure.value = 'The picture could not be measured. Try another.';
    } finally {
      busy.value = false;
    }
  }
  function show(
    picture: Blob,
    found: Extract<CleaveNews, { reading: unknown }>,
    source: Shot['source'],
  ): void {
    shot.value = { picture, url: URL.createObjectURL(picture), source, ...found };
    side.value = ends.value[0]?.side ?? 'left';
  }
  /** A frame of a camera; true once the picture is held still and its value stands. */
  async function look(frame: Blob): Promise<boolean> {
    const found = await measured(frame);
    if ('problem' in found || shot.value) return false;
    const still = isStill(live.value, found.reading);
    live.value = found.reading;
    if (still) show(frame, found, 'camera');
    return still;
  }
  const simulate = (): Promise<void> =>
    new Promise<Blob>((resolve, reject) =>
      standIn.ask(
        { seed: Math.floor(Math.random() * 1e6) },
        ({ png }) => resolve(png),
        (words) => reject(new Error(words)),
      ),
    ).then((png) => take(png, 'The simulated picture', 'stand_in'));

  function drag(which: 0 | 1, to: { x: number; y: number }): void {
    if (!end.value) return;
    dragged.value = draggedTo(dragged.value ?? end.value.face, which, to);
  }
  function choose(next: 'left' | 'right'): void {
    side.value = next;
    dragged.value = null;
  }

  /** Keeps the picture with the piece, then gives the value; null where it could not be kept. */
  async function keep(): Promise<EntryValue | null> {
    if (!shot.value || !value.value || busy.value) return null;
    const { picture, url: _, ...kept } = shot.value;
    const { classId, attemptId, criterionId } = of();
    busy.value = true;
    failure.value = null;
    try {
      const sha256 = await sendPicture(classId, picture);
      const { text, expanded } = value.value;
      const body = {
        ...kept,
        id,
        criterionId,
        kind: 'cleave' as const,
        sha256,
        takenAt: new Date().toISOString(),
        side: side.value,
        dragged: dragged.value as NewMeasuredPictureBody['dragged'],
        value: text,
        expanded,
      };
      await request(ROUTES.addMeasuredPicture, {
        params: { id: classId, attemptId },
        body: body as unknown as NewMeasuredPictureBody,
      });
      return { kind: 'measure', text, unit: 'deg', picture: { id, expanded } };
    } catch (error) {
      isAway.value = error instanceof NoServer;
      failure.value = isAway.value
        ? 'The server does not answer: the picture cannot be kept now. The value can be taken alone.'
        : wordsOf(error);
      return null;
    } finally {
      busy.value = false;
    }
  }
  return {
    shot,
    ends,
    end,
    side,
    dragged,
    value,
    live,
    busy,
    failure,
    isAway,
    take,
    look,
    simulate,
    drag,
    choose,
    drop,
    keep,
  };
}
