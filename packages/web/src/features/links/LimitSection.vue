<script setup lang="ts">
import {
  type Coefficients,
  COEFFICIENTS,
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
import ChoiceField from '../../shared/ChoiceField.vue';

/** What the link may lose: the choices between schools, the sum by wavelength, and where each figure comes from. */
const props = defineProps<{
  link: ClassLink;
  rules: LossRules;
  terms: ReadonlyMap<number, LossTerms> | null;
}>();
const emit = defineEmits<{ method: [method: ReferenceMethod]; settings: [change: Partial<LossSettings>] }>();
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
const COEFFICIENT_WORDS: Readonly<Record<Coefficients, string>> = {
  inside: 'Today’s table, inside plant',
  older: 'Older table (multimode 3.5 and 1.5)',
  outside: 'Outside plant (single-mode 0.5)',
  maker: 'Today’s fiber (single-mode 0.35 and 0.22)',
};
</script>

<template>
  <section class="section">
    <h2>What it may lose</h2>
    <div class="row settings">
      <ChoiceField
        label="Reference by"
        data-test="reference-method"
        :model-value="link.referenceMethod"
        :options="REFERENCE_METHODS.map((m) => ({ value: m, label: REFERENCE_WORDS[m] }))"
        @change="(method) => emit('method', method)"
      />
      <ChoiceField
        label="Fiber coefficient"
        :model-value="settings.coefficients"
        :options="COEFFICIENTS.map((c) => ({ value: c, label: COEFFICIENT_WORDS[c] }))"
        @change="(coefficients) => emit('settings', { coefficients })"
      />
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
    <table v-if="terms" class="plain limits" data-test="limits">
      <thead>
        <tr>
          <th>Wavelength</th>
          <th class="n">Fiber</th>
          <th class="n">Connections</th>
          <th class="n">Splices</th>
          <th class="n">Limit</th>
          <th class="n">Good work</th>
          <th class="n">U (k = 2)</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="[nm, t] in terms" :key="nm">
          <td>{{ nm }} nm</td>
          <td class="n">{{ t.fiberDb.toFixed(3) }}</td>
          <td class="n">{{ t.connections }} → {{ t.connectionsDb.toFixed(2) }}</td>
          <td class="n">{{ t.splicesDb.toFixed(2) }}</td>
          <td class="n">
            <span class="figure">{{ t.limitDb.toFixed(2) }}</span> <span class="unit">dB</span>
          </td>
          <td class="n">{{ t.expectedDb.toFixed(2) }}</td>
          <td class="n">{{ t.uncertaintyDb.toFixed(2) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-else class="soft">No limit yet: complete the link above.</p>
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
