import type { CleavedEnd, CleaveReading, EntryValue } from '@clear-mark/core';
import { v7 } from 'uuid';
import { computed, onUnmounted, ref, shallowRef } from 'vue';
import { NoServer, wordsOf } from '../../api/client.ts';
import { PROBLEM_WORDS } from '../../pictures/picture-problems.ts';
import { draggedTo, isStill, type Line, valueOf } from './cleave.model.ts';
import { keepMeasured, type PieceCriterion, type Shot } from './keep-measured.ts';
import { cleaveClient, cleaveStandInClient } from './measure-clients.ts';
import type { CleaveNews } from './measure-orders.ts';

/** A picture on its way into a sheet: measured in a worker, looked at, its line dragged where it is wrong, kept with the piece. */
export function useMeasured(of: () => PieceCriterion) {
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
    // A drag ends with a click on the line that was dragged.
    if (next === side.value) return;
    side.value = next;
    dragged.value = null;
  }

  /** Keeps the picture with the piece, then gives the value; null where it could not be kept. */
  async function keep(): Promise<EntryValue | null> {
    if (!shot.value || !value.value || busy.value) return null;
    busy.value = true;
    failure.value = null;
    try {
      const found = { ...value.value, id, side: side.value, dragged: dragged.value };
      return await keepMeasured(of(), shot.value, found);
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
