import type { FaceCriteria, MeasuredFace, MeasuredRow } from '@clear-mark/core';
import { defineStore } from 'pinia';
import { computed, shallowRef, watch } from 'vue';
import { faceClient } from '../engine/face-client.ts';
import type { FaceNews, FaceView } from '../engine/face-orders.ts';
import { PROBLEM_WORDS } from '../../../pictures/picture-problems.ts';
import { useSession } from '../../../session/session.ts';
import { isGraded } from '../inspect/face-view.model.ts';
import type { OneOfMany, Thumb } from './many.model.ts';

/** Pictures at work at a time: one a core, and never so many that their pixels fill the memory. */
const MOST_AT_WORK = 4;
/** Pictures that are taken at once; a folder of more is a slip. */
export const MOST_PICTURES = 500;
/** Width of the small picture of a face, px: sharp enough on paper. */
const THUMB_PX = 480;
const PICTURE = /\.(png|jpe?g)$/i;

/** Many pictures, graded one after the other in workers. They stay while another view is looked at. */
export const useMany = defineStore('many pictures', () => {
  const session = useSession();
  const pictures = shallowRef<readonly OneOfMany[]>([]);
  const view = shallowRef<FaceView>('single');
  const criteria = shallowRef<FaceCriteria | null>(null);
  /** Files that were no pictures, or too many. */
  const leftOut = shallowRef(0);
  const cores = Math.max(1, Math.min(MOST_AT_WORK, navigator.hardwareConcurrency || 2));
  const workers = Array.from({ length: cores }, () => ({ client: faceClient(), at: null as number | null }));
  let nextId = 0;

  const isBusy = computed(() => pictures.value.some((p) => p.state === 'waiting' || p.state === 'measuring'));

  /** Adds files and begins; what is no PNG or JPEG by its name is counted and left out. */
  function add(files: readonly File[]): void {
    const room = MOST_PICTURES - pictures.value.length;
    const taken = files.filter((f) => PICTURE.test(f.name)).slice(0, room);
    leftOut.value += files.length - taken.length;
    const added = taken.map((file): OneOfMany => ({
      id: nextId++,
      name: file.name,
      file,
      state: 'waiting',
      problem: null,
      found: null,
      thumb: null,
    }));
    pictures.value = [...pictures.value, ...added];
    goOn();
  }

  /** By other criteria, or as another ferrule, everything is measured again. */
  function use(table: FaceCriteria, shows: FaceView): void {
    if (criteria.value?.id === table.id && view.value === shows) return;
    criteria.value = table;
    view.value = shows;
    stop();
    for (const p of pictures.value) forgetThumb(p);
    change(
      () => true,
      (p) => ({ ...p, state: 'waiting', found: null, problem: null, thumb: null }),
    );
    goOn();
  }

  function goOn(): void {
    for (const worker of workers) {
      if (worker.at !== null) continue;
      const next = pictures.value.find((p) => p.state === 'waiting');
      if (!next || criteria.value === null) return;
      worker.at = next.id;
      change(
        (p) => p.id === next.id,
        (p) => ({ ...p, state: 'measuring' }),
      );
      const order = { picture: next.file, name: next.name, view: view.value, table: criteria.value };
      worker.client.ask(
        order,
        (news) => hear(worker, next, news),
        () => end(worker, next, { state: 'broken', problem: 'The picture could not be measured.' }),
      );
    }
  }
  function hear(worker: { at: number | null }, picture: OneOfMany, news: FaceNews): void {
    if (news.news === 'problem') {
      end(worker, picture, { state: 'broken', problem: PROBLEM_WORDS[news.problem](picture.name) });
    }
    if (news.news === 'done') {
      const { found } = news;
      end(worker, picture, { state: 'done', found });
      void thumbOf(picture.file, found).then((thumb) => {
        const isThere = pictures.value.some((p) => p.id === picture.id && p.found === found);
        if (!isThere) return thumb && URL.revokeObjectURL(thumb.url);
        change(
          (p) => p.id === picture.id,
          (p) => ({ ...p, thumb }),
        );
      });
    }
  }
  function end(worker: { at: number | null }, { id }: OneOfMany, as: Partial<OneOfMany>): void {
    worker.at = null;
    change(
      (p) => p.id === id,
      (p) => ({ ...p, ...as }),
    );
    goOn();
  }

  /** Ends the work; what is graded stays, and the rest is taken away. */
  function cancel(): void {
    stop();
    pictures.value = pictures.value.filter((p) => p.state === 'done' || p.state === 'broken');
  }
  function clear(): void {
    stop();
    pictures.value.forEach(forgetThumb);
    pictures.value = [];
    leftOut.value = 0;
  }
  function stop(): void {
    for (const worker of workers) {
      worker.client.end();
      worker.at = null;
    }
  }
  function change(of: (p: OneOfMany) => boolean, to: (p: OneOfMany) => OneOfMany): void {
    pictures.value = pictures.value.map((p) => (of(p) ? to(p) : p));
  }
  // They are this person's: nobody who signs in after finds them.
  watch(() => session.me?.id, clear);
  return { pictures, view, criteria, leftOut, isBusy, add, use, cancel, clear };
});

function forgetThumb({ thumb }: OneOfMany): void {
  if (thumb) URL.revokeObjectURL(thumb.url);
}

/** The part round the contact zone, or all of a row, small; null where the browser cannot make it. */
async function thumbOf(file: Blob, found: MeasuredFace | MeasuredRow): Promise<Thumb | null> {
  try {
    const whole = await createImageBitmap(file);
    const part = partOf(whole, found);
    const canvas = new OffscreenCanvas(
      Math.min(THUMB_PX, part.width),
      Math.round((Math.min(THUMB_PX, part.width) * part.height) / part.width),
    );
    canvas
      .getContext('2d')!
      .drawImage(whole, part.x, part.y, part.width, part.height, 0, 0, canvas.width, canvas.height);
    whole.close();
    const small = await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.85 });
    return { ...part, url: URL.createObjectURL(small) };
  } catch {
    return null;
  }
}

/** Half of what is shown round a fiber's centre, in radii of the cladding: to the end of the contact zone, nearly. */
const SHOWN_RADII = 1.5;
function partOf(
  { width, height }: { width: number; height: number },
  found: MeasuredFace | MeasuredRow,
): Omit<Thumb, 'url'> {
  if (!isGraded(found)) return { x: 0, y: 0, width, height };
  const reach = (found.claddingDiameterPx / 2) * SHOWN_RADII;
  const x = Math.max(0, Math.floor(found.centrePx[0] - reach));
  const y = Math.max(0, Math.floor(found.centrePx[1] - reach));
  return {
    x,
    y,
    width: Math.min(width, Math.ceil(found.centrePx[0] + reach)) - x,
    height: Math.min(height, Math.ceil(found.centrePx[1] + reach)) - y,
  };
}
