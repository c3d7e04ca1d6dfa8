import type {
  CameraCard,
  EndLayer,
  EndReading,
  EntryValue,
  MeasuredEnd,
  PicturePlace,
} from '@clear-mark/core';
import { computed, onUnmounted, ref } from 'vue';
import { edgeDragged, isEndStill, lengthOf } from './end.model.ts';
import type { PieceCriterion } from './keep-measured.ts';
import { endClient, endStandInClient } from './measure-clients.ts';
import { answerOf } from './measure-orders.ts';
import { usePicture } from './use-picture.ts';

/** A prepared end in a photograph of it on its card: the length of one layer, its edge dragged where it is wrong. */
export function useEnd(of: () => PieceCriterion & { readonly layer: EndLayer; readonly card: CameraCard }) {
  const worker = endClient();
  const standIn = endStandInClient();
  const dragged = ref<number | null>(null);
  const picture = usePicture<EndReading>(of, {
    measured: (blob) => answerOf(worker, { picture: blob, card: of().card }),
    isStill: isEndStill,
    begin: () => (dragged.value = null),
  });
  onUnmounted(() => {
    worker.end();
    standIn.end();
  });
  const end = computed((): MeasuredEnd | null =>
    picture.shot.value?.reading.ok ? picture.shot.value.reading : null,
  );
  const value = computed(() => end.value && lengthOf(end.value, of().layer, dragged.value));
  const simulate = async (): Promise<void> => {
    picture.busy.value = true;
    try {
      const order = { seed: Math.floor(Math.random() * 1e6), card: of().card };
      const { png } = await answerOf(standIn, order);
      await picture.take(png, 'The simulated picture', 'stand_in');
    } finally {
      picture.busy.value = false;
    }
  };
  function drag(to: PicturePlace): void {
    if (end.value) dragged.value = edgeDragged(end.value, to);
  }
  const keep = (): Promise<EntryValue | null> =>
    picture.keep(
      value.value,
      {
        kind: 'end',
        layer: of().layer,
        // The text is rounded, and what was dragged is what the text says.
        dragged: dragged.value === null ? null : Number(value.value!.text),
      },
      (id): EntryValue => ({
        kind: 'measure',
        text: value.value!.text,
        unit: 'mm',
        picture: { id, expanded: value.value!.expanded },
      }),
    );
  return { ...picture, end, dragged, value, simulate, drag, keep };
}
