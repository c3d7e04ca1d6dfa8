<script setup lang="ts">
import type { CourseMethod, MethodWorkShape, StockItemShape } from '@clear-mark/contract';
import { WORN_KINDS } from '@clear-mark/methods';
import { thingWords } from '@clear-mark/words';
import { computed, reactive, ref } from 'vue';
import ChoiceField from '../../../shared/ChoiceField.vue';
import NumberField from '../../../shared/NumberField.vue';
import { itemWords } from '../stock/stock.model.ts';

/** What a piece by a method takes in this class, and what it does in an oven. */
const props = defineProps<{
  method: CourseMethod;
  items: readonly StockItemShape[];
  busy: boolean;
  failure: string | null;
}>();
const emit = defineEmits<{ close: []; set: [work: MethodWorkShape | null] }>();
const work = reactive<MethodWorkShape>(JSON.parse(JSON.stringify(props.method.work)));
const added = ref('');
const steps = computed(() => props.method.steps.map((s) => ({ value: s.id, label: s.title })));
const free = computed(() => props.items.filter((i) => work.items[i.id] === undefined));
const WEAR = { splicer: 'Arcs', cleaver: 'Cleaves', cord: 'Matings' } as const;
function setUses(item: string, uses: number): void {
  if (uses === 0) delete work.items[item];
  else work.items[item] = uses;
}
function setWear(kind: (typeof WORN_KINDS)[number], uses: number): void {
  if (uses === 0) delete work.tools[kind];
  else work.tools[kind] = uses;
}
function add(): void {
  if (added.value) work.items[added.value] = 1;
  added.value = '';
}
function setCureStep(step: string): void {
  work.cure =
    step === '' ? null : { ...(work.cure ?? { minutes: 25, coolMinutes: 3, way: 'hanging' }), step };
}
</script>

<template>
  <el-dialog :model-value="true" :title="method.title" width="680" append-to-body @close="emit('close')">
    <h3>A piece takes</h3>
    <div class="uses">
      <NumberField
        v-for="(uses, item) in work.items"
        :key="item"
        :model-value="uses"
        :label="itemWords(items, String(item))"
        whole
        :max="1000"
        @change="setUses(String(item), $event)"
      />
    </div>
    <div class="row add">
      <ChoiceField
        v-model="added"
        label="One more item"
        none="choose"
        :options="free.map((i) => ({ value: i.id, label: i.label }))"
        data-test="more-item"
      />
      <el-button size="large" :disabled="added === ''" data-test="take-item" @click="add"
        >It takes this</el-button
      >
    </div>
    <h3>It wears</h3>
    <div class="uses">
      <NumberField
        v-for="kind in WORN_KINDS"
        :key="kind"
        :model-value="work.tools[kind] ?? 0"
        :label="`${WEAR[kind]}: ${thingWords(kind)}`"
        whole
        :max="1000"
        @change="setWear(kind, $event)"
      />
    </div>
    <h3>Oven and adhesive</h3>
    <div class="row add">
      <ChoiceField
        :model-value="work.cure?.step ?? ''"
        label="Cured in the oven at"
        none="not in an oven"
        :options="steps"
        @change="setCureStep"
      />
      <template v-if="work.cure">
        <NumberField
          :model-value="work.cure.minutes"
          label="Minutes"
          whole
          :min="1"
          :none="1"
          :max="1440"
          @change="work.cure.minutes = $event"
        />
        <NumberField
          :model-value="work.cure.coolMinutes"
          label="Minutes to cool"
          whole
          :max="240"
          @change="work.cure.coolMinutes = $event"
        />
        <ChoiceField
          v-model="work.cure.way"
          label="In the oven"
          :options="[
            { value: 'hanging', label: 'hanging' },
            { value: 'flat', label: 'flat on a tray' },
          ]"
        />
      </template>
      <ChoiceField
        :model-value="work.glueStep ?? ''"
        label="Adhesive used up by the end of"
        none="no adhesive"
        :options="steps"
        @change="(id: string) => (work.glueStep = id === '' ? null : id)"
      />
    </div>
    <p class="soft small">Cure times are those of the epoxy’s maker: 15 to 60 minutes (common practice).</p>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <template #footer>
      <el-button v-if="method.isOwnWork" size="large" :loading="busy" @click="emit('set', null)"
        >As it is shipped</el-button
      >
      <el-button size="large" @click="emit('close')">Cancel</el-button>
      <el-button
        size="large"
        type="primary"
        :loading="busy"
        data-test="save-work"
        @click="emit('set', JSON.parse(JSON.stringify(work)))"
        >Save</el-button
      >
    </template>
  </el-dialog>
</template>

<style scoped>
h3 {
  margin: 10px 0 4px;
}
.uses {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: 4px 14px;
}
.uses :deep(.el-form-item),
.add :deep(.el-form-item) {
  display: block;
  margin: 0;
}
.uses :deep(.el-form-item__label) {
  height: auto;
  line-height: 1.3;
  white-space: normal;
}
.uses {
  align-items: end;
}
.add {
  align-items: flex-end;
  flex-wrap: wrap;
  gap: 8px 14px;
  margin-top: 6px;
}
</style>
