<script setup lang="ts">
import { computed } from 'vue';
import { ROUTES } from '../../../api/client.ts';
import { useReply } from '../../../api/queries.ts';

/** The traces that are kept with an attempt, and the way to take one for it. */
const props = defineProps<{ classId: string; attemptId: string; open: boolean }>();
// Without the server the sheet works all the same; the traces are there again with it.
const { found: rows } = useReply(ROUTES.traces, () => ({ params: { id: props.classId } }));
const own = computed(() => (rows.value ?? []).filter((r) => r.attemptId === props.attemptId));
const to = (trace?: string) => ({
  name: 'links',
  params: { classId: props.classId },
  query: { view: 'traces', ...(props.open ? { attempt: props.attemptId } : {}), ...(trace ? { trace } : {}) },
});
</script>

<template>
  <div class="row" aria-label="Its traces" role="group">
    <RouterLink v-for="r in own.slice(0, 4)" :key="r.id" class="act" :to="to(r.id)">
      Trace at {{ Math.round(r.wavelengthNm) }} nm
    </RouterLink>
    <RouterLink v-if="open" class="act" :to="to()">{{
      own.length > 0 ? 'Another trace' : 'Its trace'
    }}</RouterLink>
  </div>
</template>
