<script setup lang="ts">
import type { FaceCriteria } from '@clear-mark/core';
import { type Paper, PAPERS, shapesDocument, ZONE_CARD_SCALE, zoneCard } from '@clear-mark/paper';
import { ref } from 'vue';
import { useAct } from '../../../api/queries.ts';
import { download, fileName } from '../../../shared/save-file.ts';
import { pdfOf } from '../../../print/render-pdf.ts';
import ChoiceField from '../../../shared/ChoiceField.vue';

/** The zones of a table as a card, to be laid beside the picture of a scope. */
const props = defineProps<{ table: FaceCriteria }>();
const emit = defineEmits<{ close: [] }>();
const { failure, busy, act } = useAct();
const paper = ref<Paper>('A4');
const papers = (Object.keys(PAPERS) as Paper[]).map((value) => ({ value, label: value }));
async function save(): Promise<void> {
  const done = await act(async () => {
    const title = `Zone card ${props.table.title}`;
    const document = shapesDocument(title, paper.value, [zoneCard(props.table, paper.value)]);
    download(fileName(title, 'pdf'), await pdfOf(document));
  });
  if (done) emit('close');
}
</script>

<template>
  <el-dialog model-value title="Zone card" width="min(480px, 94vw)" align-center @close="emit('close')">
    <p>
      {{ table.title }}: its zones {{ ZONE_CARD_SCALE }} times as large, spots and scratches of its sizes at
      the same scale, and what each zone allows. Print it at 100 %.
    </p>
    <ChoiceField label="Paper" :model-value="paper" :options="papers" @change="(p) => (paper = p)" />
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <template #footer>
      <el-button size="large" @click="emit('close')">Cancel</el-button>
      <el-button size="large" type="primary" :loading="busy" :disabled="busy" @click="save"
        >Save as PDF</el-button
      >
    </template>
  </el-dialog>
</template>
