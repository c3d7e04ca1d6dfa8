<script setup lang="ts">
import { STOCK_ITEM_KINDS, type StockItemShape } from '@clear-mark/contract';
import { computed, reactive } from 'vue';
import { request, ROUTES } from '../../../api/client.ts';
import { useAct } from '../../../api/queries.ts';
import ChoiceField from '../../../shared/ChoiceField.vue';
import NumberField from '../../../shared/NumberField.vue';

/** A stock item that this class has of its own; what takes it is said in Course and shopping, by method. */
const props = defineProps<{ classId: string }>();
const emit = defineEmits<{ close: []; made: [id: string] }>();
const KIND_WORDS = { supply: 'Part or wipe', film: 'Film', batch: 'Adhesive, primer or gel' } as const;
const form = reactive({
  label: '',
  kind: 'supply' as StockItemShape['kind'],
  unit: 'pieces',
  pack: 50,
  openedDays: 0,
});
const isWhole = computed(() => form.label.trim() !== '' && form.unit.trim() !== '');
const acts = useAct();
async function save(): Promise<void> {
  const isDone = await acts.act(async () => {
    const body = { ...form, openedDays: form.openedDays === 0 ? null : form.openedDays };
    const made = await request(ROUTES.addStockItem, { params: { id: props.classId }, body });
    emit('made', made.id);
  });
  if (isDone) emit('close');
}
</script>

<template>
  <el-dialog
    :model-value="true"
    title="A stock item of our own"
    width="560"
    append-to-body
    @close="emit('close')"
  >
    <el-form label-position="top" size="large" class="fields" @submit.prevent="save">
      <el-form-item label="What it is called" class="whole">
        <el-input v-model="form.label" maxlength="60" data-test="item-label" />
      </el-form-item>
      <ChoiceField
        v-model="form.kind"
        label="It is a"
        :options="STOCK_ITEM_KINDS.map((kind) => ({ value: kind, label: KIND_WORDS[kind] }))"
      />
      <el-form-item label="Counted in">
        <el-input v-model="form.unit" maxlength="30" />
      </el-form-item>
      <NumberField
        :model-value="form.pack"
        label="In a pack"
        whole
        :min="1"
        :none="1"
        :max="100000"
        @change="form.pack = $event"
      />
      <NumberField
        :model-value="form.openedDays"
        label="Days once opened, 0: no limit"
        whole
        :max="3650"
        @change="form.openedDays = $event"
      />
    </el-form>
    <p v-if="acts.failure.value" class="notice bad" role="alert">{{ acts.failure.value }}</p>
    <template #footer>
      <el-button size="large" @click="emit('close')">Cancel</el-button>
      <el-button
        size="large"
        type="primary"
        :disabled="!isWhole"
        :loading="acts.busy.value"
        data-test="save-item"
        @click="save"
        >Add</el-button
      >
    </template>
  </el-dialog>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px 18px;
}
.whole {
  grid-column: 1 / -1;
}
</style>
