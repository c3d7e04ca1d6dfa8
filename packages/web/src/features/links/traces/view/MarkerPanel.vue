<script setup lang="ts">
import { lossByMarkers, type Markers } from '@clear-mark/core';
import { MARKER_PROBLEM_WORDS } from '@clear-mark/words';
import { computed } from 'vue';
import { usePreferences } from '../../../../shell/preferences.ts';
import { nothingKnown } from './nothing-known.ts';
import type { ShownTrace } from './shown-trace.ts';
import { placeWords } from './trace-view.model.ts';

/** What the markers say. */
const props = defineProps<{ shown: ShownTrace; markers: Markers }>();
const preferences = usePreferences();
const loss = computed(() =>
  lossByMarkers(props.shown.trace, props.shown.analysis ?? nothingKnown(props.shown.trace), props.markers),
);
/** Over less a coefficient says nothing. */
const LEAST_M = 20;
const place = (m: number): string => placeWords(m, preferences.distanceUnit);
</script>

<template>
  <section class="markers" aria-live="polite" data-test="markers">
    <dl>
      <dt>A</dt>
      <dd>{{ place(markers.aM) }}</dd>
      <dt>B</dt>
      <dd>{{ place(markers.bM) }}</dd>
      <template v-if="loss.ok">
        <dt>A to B</dt>
        <dd>{{ place(loss.distanceM) }}</dd>
        <dt>Loss by the two lines</dt>
        <dd>
          <b class="figure">{{ loss.linesDb.toFixed(3) }}</b>
          <span class="unit">dB ± {{ (2 * loss.uLinesDb).toFixed(3) }}</span>
        </dd>
        <dt>Point to point</dt>
        <dd>
          {{ loss.pointsDb.toFixed(3) }} dB<template v-if="loss.distanceM >= LEAST_M"
            >, {{ loss.dbPerKm.toFixed(2) }} dB/km</template
          >
        </dd>
      </template>
    </dl>
    <p v-if="!loss.ok" class="notice" role="status">{{ MARKER_PROBLEM_WORDS[loss.why] }} No loss is shown.</p>
  </section>
</template>

<style scoped>
dl {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 10px;
  margin: 10px 0 0;
}
dt {
  color: var(--ink-soft);
}
dd {
  margin: 0 14px 0 0;
}
.figure {
  font-size: 1.6rem;
}
</style>
