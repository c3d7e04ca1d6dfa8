import type { CleavedEnd, CleaveReading, EntryValue } from '@clear-mark/core';
import { computed, onUnmounted, ref, shallowRef } from 'vue';
import { deviceSettings } from '../../storage/device-settings.ts';
import { draggedTo, isStill, type Line, valueOf } from './cleave.model.ts';
import type { PieceCriterion } from './keep-measured.ts';
import { cleaveClient, cleaveStandInClient } from './measure-clients.ts';
import { answerOf } from './measure-orders.ts';
import { usePicture } from './use-picture.ts';

/** Who photographs a screen once does so all day: the device keeps it. */
const OF_SCREEN = 'cleave-of-screen';

/** A cleave in a picture: its ends, which of them is meant, its face line dragged where it is wrong. */
export function useMeasured(of: () => PieceCriterion) {
  const worker = cleaveClient();
  const standIn = cleaveStandInClient();
  const side = ref<'left' | 'right'>('left');
  const dragged = shallowRef<Line | null>(null);
  const ofScreen = ref(deviceSettings.read(OF_SCREEN) === 'yes');
  const picture = usePicture<CleaveReading>(of, {
    measured: (blob) => answerOf(worker, { picture: blob }),
    isStill,
    begin: (reading) => {
      dragged.value = null;
      if (reading?.ok) side.value = reading.ends[0]?.side ?? 'left';
    },
  });
  onUnmounted(() => {
    worker.end();
    standIn.end();
  });
  const { shot } = picture;
  const ends = computed((): readonly CleavedEnd[] => (shot.value?.reading.ok ? shot.value.reading.ends : []));
  const end = computed(() => ends.value.find((e) => e.side === side.value) ?? null);
  const value = computed(() => end.value && valueOf(end.value, dragged.value, ofScreen.value));

  const simulate = async (): Promise<void> => {
    const { png } = await answerOf(standIn, { seed: Math.floor(Math.random() * 1e6) });
    await picture.take(png, 'The simulated picture', 'stand_in');
  };
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
  function setOfScreen(next: boolean): void {
    ofScreen.value = next;
    deviceSettings.write(OF_SCREEN, next ? 'yes' : 'no');
  }
  const keep = (): Promise<EntryValue | null> =>
    picture.keep(
      value.value,
      { kind: 'cleave', side: side.value, dragged: dragged.value },
      (id): EntryValue => ({
        kind: 'measure',
        text: value.value!.text,
        unit: 'deg',
        picture: { id, expanded: value.value!.expanded, face: end.value!.class },
      }),
    );
  return { ...picture, ends, end, side, dragged, ofScreen, value, simulate, drag, choose, setOfScreen, keep };
}
