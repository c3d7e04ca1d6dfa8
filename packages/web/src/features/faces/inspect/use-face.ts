import type { FaceCriteria, MeasuredFace, MeasuredRow } from '@clear-mark/core';
import { onScopeDispose, ref, shallowRef } from 'vue';
import { faceClient } from '../engine/face-client.ts';
import type { FaceNews, FaceOrder, FaceView, FlatImage } from '../engine/face-orders.ts';
import type { PictureProblem } from '../../../pictures/picture-problems.ts';
import { PROBLEM_WORDS } from '../../../pictures/picture-problems.ts';
import { STEP_WORDS } from '../face-words.ts';

export type FaceSource = 'file' | 'clipboard' | 'camera' | 'stand_in';
export interface ShownFace {
  readonly name: string;
  readonly picture: Blob;
  readonly url: string;
  readonly width: number;
  readonly height: number;
  readonly source: FaceSource;
}

/** A picture of an end face on this page, measured in a worker; a newer one, or cancelling, ends the work on it. */
export function useFace() {
  const face = shallowRef<ShownFace | null>(null);
  const found = shallowRef<MeasuredFace | MeasuredRow | null>(null);
  const flatUrl = ref<string | null>(null);
  const flat = shallowRef<FlatImage | null>(null);
  const failure = ref<string | null>(null);
  const step = ref<string | null>(null);
  const worker = faceClient();

  /** A picture that is none leaves the one before on the page. */
  function take(picture: Blob, name: string, source: FaceSource, view: FaceView, table: FaceCriteria): void {
    cancel();
    failure.value = null;
    run({ picture, name, view, table }, source);
  }
  function measure(view: FaceView, table: FaceCriteria): void {
    const shown = face.value;
    if (!shown) return;
    cancel();
    run({ picture: shown.picture, name: shown.name, view, table }, shown.source);
  }

  function run(order: FaceOrder, source: FaceSource): void {
    step.value = STEP_WORDS.reading;
    worker.ask(
      order,
      (news) => hear(news, order, source),
      () => fail('The picture could not be measured.'),
    );
  }
  function hear(news: FaceNews, order: FaceOrder, source: FaceSource): void {
    switch (news.news) {
      case 'size':
        if (face.value?.picture !== order.picture) show(order, source, news.width, news.height);
        found.value = null;
        break;
      case 'step':
        step.value = news.fiber === null ? STEP_WORDS[news.step] : `Fiber ${news.fiber}`;
        break;
      case 'done':
        cancel();
        found.value = news.found;
        showFlat(news.flat);
        break;
      case 'problem':
        fail(problemWords(news.problem, order.name));
    }
  }
  function show({ picture, name }: FaceOrder, source: FaceSource, width: number, height: number): void {
    if (face.value) URL.revokeObjectURL(face.value.url);
    face.value = { name, picture, url: URL.createObjectURL(picture), width, height, source };
  }
  function showFlat(next: FlatImage | null): void {
    if (flatUrl.value) URL.revokeObjectURL(flatUrl.value);
    flat.value = next;
    flatUrl.value = next ? URL.createObjectURL(next.png) : null;
  }
  function fail(words: string): void {
    cancel();
    failure.value = words;
  }
  function cancel(): void {
    worker.end();
    step.value = null;
  }
  onScopeDispose(() => {
    cancel();
    for (const url of [face.value?.url, flatUrl.value]) if (url) URL.revokeObjectURL(url);
  });
  return { face, found, flat, flatUrl, failure, step, take, measure, cancel };
}

const problemWords = (problem: PictureProblem, name: string): string => PROBLEM_WORDS[problem](name);
