<script setup lang="ts">
import { typedProblem } from '@clear-mark/words';
import { type LossRules, uncertaintyBudget, type UncertaintyPart, readTyped } from '@clear-mark/core';
import { computed, ref } from 'vue';
import CommitField from '../../../shared/CommitField.vue';
import ChoiceField from '../../../shared/ChoiceField.vue';

/** The components of the uncertainty, each to be changed; with the school's own ones the shipped ones rest. */
const props = defineProps<{ rules: LossRules; own: boolean }>();
const emit = defineEmits<{ change: [budget: UncertaintyPart[] | null] }>();
const budget = computed(() => uncertaintyBudget(props.rules.uncertainty));
const SHAPES: Readonly<Record<UncertaintyPart['shape'], string>> = {
  rectangular: 'half-width, ÷ √3',
  triangular: 'half-width, ÷ √6',
  standard: 'standard',
};
const shapes = Object.entries(SHAPES).map(([value, label]) => ({ value, label }));
const parts = (): UncertaintyPart[] => props.rules.uncertainty.map((p) => ({ ...p }));
function set(at: number, what: Partial<UncertaintyPart>): void {
  emit(
    'change',
    parts().map((p, i) => (i === at ? { ...p, ...what } : p)),
  );
}
interface Line {
  row: ReturnType<typeof uncertaintyBudget>['lines'][number];
  $index: number;
}
const takeOut = (at: number): void =>
  emit(
    'change',
    parts().filter((_, k) => k !== at),
  );
const problem = ref<string | null>(null);
function setDb(at: number, text: string): void {
  const typed = readTyped(text, { least: 0, most: 5 });
  problem.value = typedProblem(typed, 'a component', 'dB');
  if (typed.kind === 'number') set(at, { db: typed.value });
}
</script>

<template>
  <section class="section">
    <div class="row spread">
      <h2>
        How sure is a reading: U = {{ budget.expandedDb.toFixed(2) }} dB
        <span class="small soft">(k = 2)</span>
      </h2>
      <div class="row">
        <el-button
          size="large"
          @click="emit('change', [...parts(), { name: 'another source', shape: 'rectangular', db: 0.05 }])"
        >
          Add a component
        </el-button>
        <el-button v-if="own" size="large" @click="emit('change', null)">
          Back to the shipped budget
        </el-button>
      </div>
    </div>
    <p v-if="problem" class="notice bad" role="alert">{{ problem }}</p>
    <el-table :data="[...budget.lines]" data-test="budget">
      <el-table-column label="Component" min-width="240">
        <template #default="{ row: line, $index: i }: Line">
          <CommitField
            class="lined name"
            label="Component"
            :value="line.name"
            :maxlength="80"
            @commit="(text) => text.trim() !== '' && set(i, { name: text.trim() })"
          />
        </template>
      </el-table-column>
      <el-table-column label="dB" align="right" width="120">
        <template #default="{ row: line, $index: i }: Line">
          <CommitField
            class="lined db"
            inputmode="decimal"
            :label="`${line.name}, dB`"
            :value="String(line.db)"
            @commit="(text) => setDb(i, text)"
          />
        </template>
      </el-table-column>
      <el-table-column label="Taken as" width="190">
        <template #default="{ row: line, $index: i }: Line">
          <ChoiceField
            bare
            :label="`${line.name}, shape`"
            :model-value="line.shape"
            :options="shapes"
            @change="(shape) => set(i, { shape: shape as UncertaintyPart['shape'] })"
          />
        </template>
      </el-table-column>
      <el-table-column prop="standardDb" label="u, dB" align="right" width="110">
        <template #default="{ row: line }: Line">{{ line.standardDb.toFixed(3) }}</template>
      </el-table-column>
      <el-table-column prop="share" label="Share of the variance" min-width="210">
        <template #default="{ row: line }: Line">
          <span class="bar"><i :style="{ width: `${line.share * 100}%` }" /></span>
          {{ Math.round(line.share * 100) }} %
        </template>
      </el-table-column>
      <el-table-column align="right" width="120">
        <template #default="{ row: line, $index: i }: Line">
          <el-button size="large" :aria-label="`Remove ${line.name}`" @click="takeOut(i)">Remove</el-button>
        </template>
      </el-table-column>
    </el-table>
    <p class="small soft">
      u is the root sum of squares, U = 2 u (JCGM 100:2008).
      {{ own ? 'The school’s own budget.' : 'The shipped budget: figures of the house.' }}
    </p>
  </section>
</template>

<style scoped>
.name {
  width: 100%;
  min-width: 200px;
}
.db {
  width: 84px;
}
.db :deep(input) {
  text-align: right;
}
.bar {
  display: inline-block;
  width: 90px;
  height: 10px;
  background: var(--sunk);
  vertical-align: middle;
  margin-right: 6px;
}
.bar i {
  display: block;
  height: 100%;
  background: var(--accent);
}
</style>
