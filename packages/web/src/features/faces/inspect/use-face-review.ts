import { type AddedFeature, type FaceCriteria, type GradedFace, reviewFace } from '@clear-mark/core';
import { computed, type ComputedRef, ref } from 'vue';
import {
  addedBetween,
  type ShownFeature,
  shownFeatures,
  toggleKind,
  toggleRejected,
} from './face-view.model.ts';
import type { Tool } from './face-tools.ts';
import type { useKeptFace } from './use-kept-face.ts';

/** What the instructor makes of a graded face: features that are none, others that were missed, another kind. */
export function useFaceReview(
  keeping: Pick<ReturnType<typeof useKeptFace>, 'review' | 'revise'>,
  graded: ComputedRef<GradedFace | null>,
  table: ComputedRef<FaceCriteria>,
) {
  const { review, revise } = keeping;
  const tool = ref<Tool>('look');
  /** Of a scratch that is added, um. */
  const widthUm = ref(1);
  const reviewed = computed(() =>
    graded.value ? reviewFace(graded.value.features, review.value, table.value) : null,
  );
  const features = computed(() =>
    graded.value && reviewed.value ? shownFeatures(graded.value, review.value, reviewed.value) : [],
  );

  /** Two places on the face, um from its centre: what the tool in hand makes of them. */
  function add(from: readonly [number, number], to: readonly [number, number]): void {
    const added: AddedFeature | null =
      tool.value === 'defect' || tool.value === 'scratch'
        ? addedBetween(tool.value, from, to, widthUm.value)
        : null;
    tool.value = 'look';
    if (added) revise({ ...review.value, added: [...review.value.added, added] });
  }
  const reject = (feature: ShownFeature): void => revise(toggleRejected(review.value, feature));
  function changeKind(feature: ShownFeature): void {
    if (graded.value) revise(toggleKind(review.value, feature, graded.value));
  }
  return { reviewed, features, tool, widthUm, add, reject, changeKind };
}
