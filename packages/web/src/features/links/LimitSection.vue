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
const chosen = (event: Event): string => (event.target as HTMLSelectElement).value;
</script>

<template>
  <section class="section">
    <h2>What it may lose</h2>
    <div class="row settings">
      <label class="field">
        <span>Reference by</span>
        <select
          class="act"
          data-test="reference-method"
          :value="link.referenceMethod"
          @change="(e) => emit('method', chosen(e) as ReferenceMethod)"
        >
          <option v-for="m in REFERENCE_METHODS" :key="m" :value="m">{{ REFERENCE_WORDS[m] }}</option>
        </select>
      </label>
      <label class="field">
        <span>Fiber coefficient</span>
        <select
          class="act"
          :value="settings.coefficients"
          @change="(e) => emit('settings', { coefficients: chosen(e) as Coefficients })"
        >
          <option v-for="c in COEFFICIENTS" :key="c" :value="c">{{ COEFFICIENT_WORDS[c] }}</option>
        </select>
      </label>
      <button
        class="act"
        type="button"
        :aria-pressed="settings.counts === 'connectors'"
        @click="emit('settings', { counts: settings.counts === 'connectors' ? 'mated_pairs' : 'connectors' })"
      >
        Count each connector
      </button>
      <button
        class="act"
        type="button"
        :aria-pressed="settings.referenceGrade"
        @click="emit('settings', { referenceGrade: !settings.referenceGrade })"
      >
        Reference-grade cords
      </button>
      <button
        v-if="!isSingleMode(link.plan.fiberClass)"
        class="act"
        type="button"
        :aria-pressed="settings.conditioned"
        @click="emit('settings', { conditioned: !settings.conditioned })"
      >
        Launch conditioned
      </button>
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
