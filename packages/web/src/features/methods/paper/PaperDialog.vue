<script setup lang="ts">
import { type MethodSheet, sheetProblems } from '@clear-mark/core';
import {
  cameraCardPages,
  classMatrix,
  lacksLetters,
  type Paper,
  PAPERS,
  type PdfDocument,
  pieceSheet,
  scoreSheetDocument,
  shapesDocument,
  stripCard,
  wallSheetDocument,
} from '@clear-mark/paper';
import { computed, ref } from 'vue';
import { useAct } from '../../../api/queries.ts';
import { download, fileName } from '../../../shared/save-file.ts';
import { useClassroom } from '../../../classroom/use-classroom.ts';
import ChoiceField from '../../../shared/ChoiceField.vue';
import { limitWords } from '../../../shared/limit-words.ts';
import { usePreferences } from '../../../shell/preferences.ts';
import { pdfOf } from '../../../print/render-pdf.ts';

/** What of a method is put on paper: the strip card at true size, a sheet to score one piece by, or one for the whole class. */
const props = defineProps<{ sheet: MethodSheet }>();
const emit = defineEmits<{ close: [] }>();
const classroom = useClassroom();
const preferences = usePreferences();
const { failure, busy, act } = useAct();
type What = 'card' | 'camera' | 'wall' | 'piece' | 'class';
const WHATS: readonly { readonly value: What; readonly label: string; readonly says: string }[] = [
  { value: 'card', label: 'Strip card', says: 'The lengths at true size, to lay a prepared end on.' },
  {
    value: 'camera',
    label: 'Card for the camera',
    says: 'A prepared end is laid on it, and its lengths are measured in a photograph.',
  },
  {
    value: 'wall',
    label: 'Wall sheet',
    says: 'Cautions, steps, drawings and limits, to be read from the bench.',
  },
  { value: 'piece', label: 'Score sheet of a piece', says: 'Every criterion with a box to write in.' },
  { value: 'class', label: 'Score sheet of the class', says: 'A row a criterion, a column a trainee.' },
];
const whats = computed(() => WHATS.filter((w) => w.value !== 'card' || props.sheet.strip));
const what = ref<What>(props.sheet.strip ? 'card' : 'piece');
const paper = ref<Paper>('A4');
const copies = ref(3);
const papers = (Object.keys(PAPERS) as Paper[]).map((value) => ({ value, label: value }));
const trainees = computed(() => (classroom.detail?.trainees ?? []).map((t) => t.name));
const missing = computed(() => what.value === 'class' && trainees.value.some(lacksLetters));
const isSound = computed(() => sheetProblems(props.sheet).length === 0);

function documentOf(): PdfDocument {
  const { sheet } = props;
  const limit = (c: Parameters<typeof limitWords>[0]): string => limitWords(c, preferences.lengthUnit);
  switch (what.value) {
    case 'card': {
      const { pages } = stripCard(sheet, paper.value, copies.value)!;
      return shapesDocument(sheet.title, paper.value, pages);
    }
    case 'camera':
      return shapesDocument(sheet.title, paper.value, cameraCardPages(sheet, paper.value, copies.value));
    case 'wall':
      return wallSheetDocument(sheet, limit, paper.value);
    case 'piece':
      return scoreSheetDocument(pieceSheet(sheet, limit, { trainee: '', piece: '' }), paper.value);
    case 'class':
      return scoreSheetDocument(classMatrix(sheet, trainees.value), paper.value);
    default: {
      const never: never = what.value;
      return never;
    }
  }
}
async function save(): Promise<void> {
  const done = await act(async () => {
    const label = WHATS.find((w) => w.value === what.value)!.label;
    download(fileName(`${label} ${props.sheet.title}`, 'pdf'), await pdfOf(documentOf()));
  });
  if (done) emit('close');
}
</script>

<template>
  <el-dialog model-value title="Put on paper" width="min(560px, 94vw)" align-center @close="emit('close')">
    <p v-if="!isSound" class="notice">This method cannot be scored yet: complete it first.</p>
    <template v-else>
      <el-radio-group v-model="what" class="whats" aria-label="What is put on paper">
        <el-radio v-for="w in whats" :key="w.value" :value="w.value" size="large">
          <b>{{ w.label }}</b> <span class="soft">{{ w.says }}</span>
        </el-radio>
      </el-radio-group>
      <div class="row fields">
        <ChoiceField label="Paper" :model-value="paper" :options="papers" @change="(p) => (paper = p)" />
        <div v-if="what === 'card' || what === 'camera'">
          <label class="soft" for="card-copies">Cards</label>
          <el-input-number id="card-copies" v-model="copies" size="large" :min="1" :max="8" :precision="0" />
        </div>
      </div>
      <p v-if="what === 'card'" class="soft">
        Print it at 100 %: a bar of 100 mm and the outline of a bank card on the page show whether the printer
        kept to it.
      </p>
      <p v-if="what === 'camera'" class="soft">
        Print it at 100 % on stiff paper and cut it at the corner lines: the camera checks the print against
        the cut edges.
      </p>
      <p v-if="missing" class="notice">
        Some names have letters that the shipped typeface does not have: they are printed as “?”.
      </p>
    </template>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <template #footer>
      <el-button size="large" @click="emit('close')">Cancel</el-button>
      <el-button size="large" type="primary" :disabled="!isSound || busy" :loading="busy" @click="save"
        >Save as PDF</el-button
      >
    </template>
  </el-dialog>
</template>

<style scoped>
.whats {
  display: grid;
  gap: 4px;
  justify-items: start;
}
.whats :deep(.el-radio) {
  height: auto;
  min-height: var(--tap);
  margin: 0;
  white-space: normal;
}
.fields {
  align-items: flex-end;
  margin: 12px 0 8px;
}
.fields label {
  display: block;
}
</style>
