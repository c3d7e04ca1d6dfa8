<script setup lang="ts">
import type { LossCriterion } from '@clear-mark/core';
import { sourceWords } from '@clear-mark/words';
import { computed } from 'vue';
import { distanceWords, termsOf } from '../../shared/limit-words.ts';
import { usePreferences } from '../../shell/preferences.ts';

/** The limit of a link, worked out in the open. */
const props = defineProps<{ criterion: LossCriterion }>();
const preferences = usePreferences();
const rules = computed(() => props.criterion.rules);
const lines = computed(() =>
  props.criterion.wavelengthsNm.map((nm) => ({ nm, terms: termsOf(props.criterion, nm) })),
);
const sources = computed(() => [
  sourceWords(rules.value.connectionDb.source),
  ...new Set(props.criterion.wavelengthsNm.map((nm) => sourceWords(rules.value.fiberDbPerKm[nm]!.source))),
]);
</script>

<template>
  <details>
    <summary>Where the limit comes from</summary>
    <dl class="small">
      <div v-for="{ nm, terms } in lines" :key="nm">
        <dt>{{ nm }} nm</dt>
        <dd>
          {{ distanceWords(criterion.link.lengthM, preferences.distanceUnit) }}
          <template v-if="criterion.link.ownFiber">
            of fiber, some by its own data sheet: {{ terms.fiberDb.toFixed(3) }} dB
          </template>
          <template v-else>× {{ rules.fiberDbPerKm[nm]!.db }} dB/km</template>
          + {{ terms.connections }} × {{ rules.connectionDb.db }} dB + {{ criterion.link.splices }} ×
          {{ rules.spliceDb.db }} dB = <b>{{ terms.limitDb.toFixed(3) }} dB</b>; expected
          {{ terms.expectedDb.toFixed(2) }} dB; U (k = 2) {{ terms.uncertaintyDb.toFixed(2) }} dB
        </dd>
      </div>
    </dl>
    <p v-for="words in sources" :key="words" class="small soft">{{ words }}.</p>
    <p class="small soft">
      {{
        rules.counts === 'connectors'
          ? 'Counted: each connector, by the class’s choice.'
          : 'Counted: mated pairs inside the measured span.'
      }}
    </p>
  </details>
</template>

<style scoped>
dl {
  margin: 4px 0;
}
dl > div {
  display: grid;
  grid-template-columns: 80px minmax(0, 1fr);
  padding: 4px 0;
  border-bottom: 1px solid var(--hair);
}
dd {
  margin: 0;
}
</style>
