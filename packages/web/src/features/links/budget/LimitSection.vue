<script setup lang="ts">
import {
  type Coefficients,
  COEFFICIENTS,
  fiberMode,
  isSingleMode,
  type LossRules,
  type LossSettings,
  type LossTerms,
  REFERENCE_METHODS,
  type ReferenceMethod,
} from '@clear-mark/core';
import type { ClassLink } from '@clear-mark/contract';
import { REFERENCE_WORDS, sourceWords } from '@clear-mark/words';
import { computed } from 'vue';
import { ROUTES } from '../../../api/client.ts';
import { useReply } from '../../../api/queries.ts';
import ChoiceField from '../../../shared/ChoiceField.vue';
import { lossTables } from '../../../shared/school-tables.ts';

/** What the link may lose: the choices between schools, the sum by wavelength, and where each figure comes from. */
const props = defineProps<{
  link: ClassLink;
  rules: LossRules;
  terms: ReadonlyMap<number, LossTerms> | null;
}>();
const emit = defineEmits<{ method: [method: ReferenceMethod]; settings: [change: Partial<LossSettings>] }>();
interface Line {
  row: { nm: number; t: LossTerms };
}
const lines = computed(() => [...(props.terms ?? [])].map(([nm, t]) => ({ nm, t })));
const settings = computed(() => props.link.settings);
const sources = computed(() => {
  const { fiberDbPerKm, connectionDb, spliceDb, referenceEndDb } = props.rules;
  const all = [
    ...Object.values(fiberDbPerKm),
    connectionDb,
    spliceDb,
    ...(referenceEndDb ? [referenceEndDb] : []),
  ];
  return [...new Set(all.map((v) => sourceWords(v.source)))];
});
const { found } = useReply(ROUTES.schoolTables, () => ({}));
const mode = computed(() => fiberMode(props.link.plan.fiberClass));
const table = computed(() => settings.value.table);
const takenAs = (t: { title: string; version: number }): string => `table:${t.title}, version ${t.version}`;
/** Shipped coefficients, the school's tables for such fiber, and the version that this link took. */
const choices = computed(() => {
  const tables = lossTables(found.value, mode.value).map(({ title, version }) => ({ title, version }));
  const taken = table.value;
  const all = taken && !tables.some((t) => takenAs(t) === takenAs(taken)) ? [taken, ...tables] : tables;
  return [
    ...COEFFICIENTS.map((c) => ({ value: c as string, label: COEFFICIENT_WORDS[c] })),
    ...all.map((t) => ({ value: takenAs(t), label: takenAs(t).slice('table:'.length) })),
  ];
});
const allowancesBy = computed(() => (table.value ? takenAs(table.value) : settings.value.coefficients));
function choose(value: string): void {
  const coefficients = COEFFICIENTS.find((c) => c === value);
  if (coefficients) return emit('settings', { coefficients, table: undefined });
  const taken = lossTables(found.value, mode.value).find((t) => takenAs(t) === value);
  if (taken) emit('settings', { table: { ...taken.content, title: taken.title, version: taken.version } });
}
const COEFFICIENT_WORDS: Readonly<Record<Coefficients, string>> = {
  inside: 'Today’s table, inside plant',
  older: 'Older table (multimode 3.5 and 1.5)',
  outside: 'Outside plant (single-mode 0.5)',
  maker: 'Today’s fiber (single-mode 0.35 and 0.22)',
};
</script>

<template>
  <section class="section">
    <h2>Limit and expected loss</h2>
    <div class="row settings">
      <ChoiceField
        label="Reference by"
        data-test="reference-method"
        :model-value="link.referenceMethod"
        :options="REFERENCE_METHODS.map((m) => ({ value: m, label: REFERENCE_WORDS[m] }))"
        @change="(method) => emit('method', method)"
      />
      <ChoiceField label="Allowances" :model-value="allowancesBy" :options="choices" @change="choose" />
      <el-button
        size="large"
        :aria-pressed="settings.counts === 'connectors'"
        @click="emit('settings', { counts: settings.counts === 'connectors' ? 'mated_pairs' : 'connectors' })"
      >
        Count each connector
      </el-button>
      <el-button
        size="large"
        :aria-pressed="settings.referenceGrade"
        @click="emit('settings', { referenceGrade: !settings.referenceGrade })"
      >
        Reference-grade cords
      </el-button>
      <el-button
        v-if="!isSingleMode(link.plan.fiberClass)"
        size="large"
        :aria-pressed="settings.conditioned"
        @click="emit('settings', { conditioned: !settings.conditioned })"
      >
        Launch conditioned
      </el-button>
    </div>
    <el-table v-if="terms" :data="lines" row-key="nm" class="limits" data-test="limits">
      <el-table-column label="Wavelength" min-width="120">
        <template #default="{ row }: Line">{{ row.nm }} nm</template>
      </el-table-column>
      <el-table-column label="Fiber" align="right" min-width="90">
        <template #default="{ row: { t } }: Line">{{ t.fiberDb.toFixed(3) }}</template>
      </el-table-column>
      <el-table-column label="Connections" align="right" min-width="120">
        <template #default="{ row: { t } }: Line"
          >{{ t.connections }} → {{ t.connectionsDb.toFixed(2) }}</template
        >
      </el-table-column>
      <el-table-column label="Splices" align="right" min-width="90">
        <template #default="{ row: { t } }: Line">{{ t.splicesDb.toFixed(2) }}</template>
      </el-table-column>
      <el-table-column label="Limit" align="right" min-width="110">
        <template #default="{ row: { t } }: Line"
          ><span class="figure">{{ t.limitDb.toFixed(2) }}</span> <span class="unit">dB</span></template
        >
      </el-table-column>
      <el-table-column label="Expected" align="right" min-width="110">
        <template #default="{ row: { t } }: Line">{{ t.expectedDb.toFixed(2) }}</template>
      </el-table-column>
      <el-table-column label="U (k = 2)" align="right" min-width="110">
        <template #default="{ row: { t } }: Line">{{ t.uncertaintyDb.toFixed(2) }}</template>
      </el-table-column>
    </el-table>
    <p v-else class="soft">No limit yet: complete the link above.</p>
    <p v-if="table && table.fiber !== mode" class="notice">
      {{ table.title }} is for other fiber: the shipped allowances count here.
    </p>
    <p v-for="words in sources" :key="words" class="small soft">{{ words }}.</p>
  </section>
</template>

<style scoped>
.settings {
  align-items: end;
  margin: 10px 0;
}
.limits {
  margin-bottom: 8px;
}
</style>
