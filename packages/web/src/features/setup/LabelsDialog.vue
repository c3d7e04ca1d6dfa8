<script setup lang="ts">
import type { ClassDetail } from '@clear-mark/contract';
import {
  codeFor,
  lacksLetters,
  type Label,
  LABEL_GRIDS,
  type LabelGridName,
  labelPages,
  shapesDocument,
} from '@clear-mark/paper';
import { thingWords } from '@clear-mark/words';
import { computed, ref, watch } from 'vue';
import { useAct } from '../../api/queries.ts';
import { useLiveOutcomes } from '../../classroom/live-outcomes.ts';
import { useClassroom } from '../../classroom/use-classroom.ts';
import { labelOfPiece } from '../../shared/initials.ts';
import { download, fileName } from '../../shared/save-file.ts';
import { pdfOf } from '../../print/render-pdf.ts';
import ChoiceField from '../../shared/ChoiceField.vue';

/** Labels with codes for the equipment and the trainees of a class: scanned, they open what they stand for. */
const props = defineProps<{ detail: Pick<ClassDetail, 'name' | 'things' | 'trainees'> }>();
const emit = defineEmits<{ close: [] }>();
const { failure, busy, act } = useAct();
const WHATS = [
  { value: 'things', label: 'Equipment' },
  { value: 'trainees', label: 'Trainees' },
  { value: 'pieces', label: 'Pieces' },
] as const;
type What = (typeof WHATS)[number]['value'];
const GRID_WORDS: Readonly<Record<LabelGridName, string>> = {
  a4_3_by_8: 'A4, 3 by 8 (70 x 37 mm)',
  a4_2_by_7: 'A4, 2 by 7 (99 x 38 mm)',
  letter_3_by_10: 'Letter, 3 by 10 (67 x 25 mm)',
};
const grids = Object.entries(GRID_WORDS).map(([value, label]) => ({ value: value as LabelGridName, label }));
const what = ref<What>('things');
const gridName = ref<LabelGridName>('a4_3_by_8');
const first = ref(1);
const grid = computed(() => LABEL_GRIDS[gridName.value]);
const aPage = computed(() => grid.value.across * grid.value.down);
const classroom = useClassroom();
const live = useLiveOutcomes();
const ahead = ref(4);
/** Pieces that are open now, then the next ones of each trainee by the labels that they will be offered. */
const pieces = computed((): { label: string; trainee: string; traineeId: string }[] => {
  const tiles = classroom.tiles ?? [];
  const nameOf = new Map(tiles.map((t) => [t.traineeId, t.traineeName]));
  const open = live.attempts.map(({ attempt: a }) => ({
    label: a.pieceLabel,
    trainee: nameOf.get(a.traineeId) ?? '',
    traineeId: a.traineeId,
  }));
  const next = tiles.flatMap((t) =>
    Array.from({ length: ahead.value }, (_, i) => ({
      label: labelOfPiece(t.traineeName, t.pieces + i + 1),
      trainee: t.traineeName,
      traineeId: t.traineeId,
    })),
  );
  return [...open, ...next].filter((p, i, all) => all.findIndex((o) => o.label === p.label) === i);
});
const LABELS: Readonly<Record<What, () => Label[]>> = {
  things: () =>
    props.detail.things
      .filter((t) => !t.retired)
      .map((t) => ({ name: t.label, below: thingWords(t.kind), code: codeFor('thing', t.id) })),
  trainees: () =>
    props.detail.trainees.map((t) => ({
      name: t.name,
      below: props.detail.name,
      code: codeFor('trainee', t.id),
    })),
  pieces: () =>
    pieces.value.map((p) => ({
      name: p.label,
      below: p.trainee,
      code: codeFor('piece', p.traineeId, p.label),
    })),
};
const all = computed(() => LABELS[what.value]());
/** By their codes; none chosen stands for all. */
const only = ref<string[]>([]);
watch(what, () => (only.value = []));
const labels = computed(() =>
  only.value.length === 0 ? all.value : all.value.filter((l) => only.value.includes(l.code)),
);
const missing = computed(() => labels.value.some((l) => lacksLetters(l.name)));

async function save(): Promise<void> {
  const done = await act(async () => {
    const pages = labelPages(labels.value, grid.value, first.value - 1);
    const title = `Labels ${props.detail.name}`;
    download(fileName(title, 'pdf'), await pdfOf(shapesDocument(title, grid.value.paper, pages)));
  });
  if (done) emit('close');
}
</script>

<template>
  <el-dialog
    model-value
    title="Labels with codes"
    width="min(520px, 94vw)"
    align-center
    @close="emit('close')"
  >
    <div class="row fields">
      <ChoiceField label="For" :model-value="what" :options="WHATS" @change="(w) => (what = w)" />
      <ChoiceField
        label="Sheet of labels"
        :model-value="gridName"
        :options="grids"
        @change="(g) => (gridName = g)"
      />
      <div v-if="what === 'pieces'">
        <label class="soft first" for="pieces-ahead">Next pieces of each</label>
        <el-input-number id="pieces-ahead" v-model="ahead" size="large" :min="0" :max="40" :precision="0" />
      </div>
      <div>
        <label class="soft first" for="first-label">First free label</label>
        <el-input-number id="first-label" v-model="first" size="large" :min="1" :max="aPage" :precision="0" />
      </div>
    </div>
    <el-select
      v-model="only"
      class="only"
      size="large"
      multiple
      filterable
      collapse-tags
      :max-collapse-tags="3"
      placeholder="All of them, or choose some"
      aria-label="Which labels"
    >
      <el-option v-for="l in all" :key="l.code" :value="l.code" :label="l.name" />
    </el-select>
    <p class="soft">
      {{ labels.length }} {{ labels.length === 1 ? 'label' : 'labels' }}. Scanned by a hand-held scanner or
      the camera of a tablet, a label opens the equipment, the trainee’s sheet, or the piece’s.
    </p>
    <p v-if="missing" class="notice">
      Some names have letters that the shipped typeface does not have: they are printed as “?”.
    </p>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <template #footer>
      <el-button size="large" @click="emit('close')">Cancel</el-button>
      <el-button
        size="large"
        type="primary"
        :disabled="busy || labels.length === 0"
        :loading="busy"
        @click="save"
        >Save as PDF</el-button
      >
    </template>
  </el-dialog>
</template>

<style scoped>
.fields {
  align-items: flex-end;
  margin-bottom: 10px;
}
.fields :deep(.field) {
  flex: 0 0 auto;
}
.only {
  margin-bottom: 10px;
}
.first {
  display: block;
}
</style>
