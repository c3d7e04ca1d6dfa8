import type { EntryValue, MeasuredSplice, SpliceReading } from '@clear-mark/core';
import { computed, onUnmounted, ref } from 'vue';
import type { PieceCriterion } from './keep-measured.ts';
import { spliceClient, spliceStandInClient } from './measure-clients.ts';
import { answerOf } from './measure-orders.ts';
import { isJointStill, levelOf, lossOf } from './splice.model.ts';
import { usePicture } from './use-picture.ts';

/** A joint in a picture: the level that it is graded at, its loss, its place dragged where it is wrong. */
export function useSplice(
  of: () => PieceCriterion & { readonly levels: readonly { readonly id: string; readonly label: string }[] },
) {
  const worker = spliceClient();
  const standIn = spliceStandInClient();
  /** The column of the joint where somebody sees it. */
  const dragged = ref<number | null>(null);
  /** The level that somebody chose in place of what was found. */
  const chosen = ref<string | null>(null);
  const picture = usePicture<SpliceReading>(of, {
    measured: (blob) => answerOf(worker, { picture: blob, jointAt: dragged.value }),
    isStill: isJointStill,
    begin: () => {
      dragged.value = null;
      chosen.value = null;
    },
  });
  onUnmounted(() => {
    worker.end();
    standIn.end();
  });
  const { shot } = picture;
  const joint = computed((): MeasuredSplice | null => (shot.value?.reading.ok ? shot.value.reading : null));
  const found = computed(() => joint.value && levelOf(joint.value, of().levels));
  const level = computed(() => chosen.value ?? found.value);
  const loss = computed(() => joint.value && lossOf(joint.value));
  /** Nothing is taken before it is clear what the joint is called. */
  const value = computed(() => (level.value === null ? null : loss.value));

  const simulate = async (): Promise<void> => {
    const { png } = await answerOf(standIn, { seed: Math.floor(Math.random() * 1e6) });
    await picture.take(png, 'The simulated picture', 'stand_in');
  };
  const drag = (column: number): void => {
    if (shot.value) dragged.value = Math.max(0, Math.min(shot.value.width - 1, column));
  };
  /** What a place gives that somebody set. */
  const settle = (): Promise<void> => picture.again();
  const keep = (): Promise<EntryValue | null> =>
    picture.keep(
      value.value,
      { kind: 'splice', level: level.value!, dragged: dragged.value },
      (id): EntryValue => ({
        kind: 'grade',
        level: level.value!,
        picture: { id, lossDb: value.value!.text, expanded: value.value!.expanded },
      }),
    );
  return { ...picture, joint, found, chosen, level, loss, value, dragged, simulate, drag, settle, keep };
}
