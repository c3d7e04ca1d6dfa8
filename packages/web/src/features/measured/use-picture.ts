import type { EntryValue } from '@clear-mark/core';
import type { NewMeasuredPictureBody } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { onUnmounted, ref, shallowRef } from 'vue';
import { NoServer, wordsOf } from '../../api/client.ts';
import { PROBLEM_WORDS } from '../../pictures/picture-problems.ts';
import type { ReadValue } from './cleave.model.ts';
import { type EntryOf, keepMeasured, type PieceCriterion, type Shot } from './keep-measured.ts';
import type { MeasureNews } from './measure-orders.ts';

export interface PictureWork<R> {
  /** Measures a picture in a worker. */
  readonly measured: (picture: Blob) => Promise<MeasureNews<R>>;
  /** Whether two readings that follow each other agree. */
  readonly isStill: (before: R | null, now: R) => boolean;
  /** What begins anew with each picture. */
  readonly begin: (reading: R | null) => void;
}

/** A picture on its way into a sheet: measured in a worker, looked at, kept with the piece. */
export function usePicture<R>(of: () => PieceCriterion, work: PictureWork<R>) {
  const shot = shallowRef<Shot<R> | null>(null);
  const busy = ref(false);
  const failure = ref<string | null>(null);
  const isAway = ref(false);
  /** The newest reading of a live picture, before one is held still. */
  const live = shallowRef<R | null>(null);
  let id = v7();
  /** Counts what was asked for: an answer to what came before the last of it is none. */
  let asked = 0;
  onUnmounted(drop);

  function drop(): void {
    if (shot.value) URL.revokeObjectURL(shot.value.url);
    shot.value = null;
    live.value = null;
    failure.value = null;
    isAway.value = false;
    busy.value = false;
    asked += 1;
    id = v7();
    work.begin(null);
  }
  async function take(picture: Blob, name: string, source: Shot<R>['source']): Promise<void> {
    drop();
    busy.value = true;
    try {
      const found = await work.measured(picture);
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
    found: Extract<MeasureNews<R>, { reading: unknown }>,
    source: Shot<R>['source'],
  ): void {
    shot.value = { picture, url: URL.createObjectURL(picture), source, ...found };
    work.begin(found.reading);
  }
  /** A frame of a camera; true once the picture is held still and its value stands. */
  async function look(frame: Blob): Promise<boolean> {
    const found = await work.measured(frame);
    if ('problem' in found || shot.value) return false;
    const still = work.isStill(live.value, found.reading);
    live.value = found.reading;
    if (still) show(frame, found, 'camera');
    return still;
  }
  /** Measures the same picture anew, by what somebody set in it. What was set last counts; until it has been measured nothing is kept. */
  async function again(): Promise<void> {
    const own = shot.value;
    if (!own) return;
    const mine = ++asked;
    busy.value = true;
    try {
      const found = await work.measured(own.picture);
      if (mine === asked && 'reading' in found) shot.value = { ...own, reading: found.reading };
    } catch {
      if (mine === asked) failure.value = 'The picture could not be measured there. Try once more.';
    } finally {
      if (mine === asked) busy.value = false;
    }
  }

  /** Keeps the picture with the piece, then gives the value; null where it could not be kept. */
  async function keep(
    found: ReadValue | null,
    more: Partial<NewMeasuredPictureBody>,
    entryOf: EntryOf,
  ): Promise<EntryValue | null> {
    if (!shot.value || !found || busy.value) return null;
    busy.value = true;
    failure.value = null;
    try {
      return await keepMeasured(of(), shot.value, { ...found, id }, more, entryOf);
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
  return { shot, live, busy, failure, isAway, take, look, drop, again, keep };
}
