<script setup lang="ts">
import { ROUTES } from '../../../../api/client.ts';
import { useReply } from '../../../../api/queries.ts';
import { seriesWords } from './series-words.ts';

/** Series of traces that are set for the one who is signed in. */
const { found: series } = useReply(ROUTES.ownTraceSeries, () => ({}));
</script>

<template>
  <section v-if="series && series.length > 0" class="section" aria-label="Traces to read">
    <h2>Traces to read</h2>
    <ul>
      <li v-for="s in series" :key="s.id" class="row">
        <RouterLink
          class="act"
          :class="{ next: !s.run?.finished }"
          :to="{ name: 'trace-run', params: { seriesId: s.id } }"
          >{{ s.run?.finished ? 'See' : s.run ? 'Go on' : 'Begin' }}</RouterLink
        >
        <span
          ><b>{{ s.label }}</b>, {{ s.traces }} traces<template v-if="s.run?.result"
            >: {{ seriesWords(s.run.result) }}</template
          ></span
        >
      </li>
    </ul>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
  display: grid;
  gap: 8px;
}
</style>
