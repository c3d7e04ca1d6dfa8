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
    <table class="plain small">
      <tbody>
        <tr v-for="{ nm, terms } in lines" :key="nm">
          <td>{{ nm }} nm</td>
          <td>
            {{ distanceWords(criterion.link.lengthM, preferences.distanceUnit) }}
            <template v-if="criterion.link.ownFiber">
              of fiber, some by its own data sheet: {{ terms.fiberDb.toFixed(3) }} dB
            </template>
            <template v-else>× {{ rules.fiberDbPerKm[nm]!.db }} dB/km</template>
            + {{ terms.connections }} × {{ rules.connectionDb.db }} dB + {{ criterion.link.splices }} ×
            {{ rules.spliceDb.db }} dB = <b>{{ terms.limitDb.toFixed(3) }} dB</b>; good work
            {{ terms.expectedDb.toFixed(2) }} dB; U (k = 2) {{ terms.uncertaintyDb.toFixed(2) }} dB
          </td>
        </tr>
      </tbody>
    </table>
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
