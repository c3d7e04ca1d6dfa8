<script setup lang="ts">
import type { FaceRow } from '@clear-mark/contract';
import { onMounted, shallowRef } from 'vue';
import { call, pictureUrl, ROUTES } from '../../../api/client.ts';
import VerdictRing from '../../../shared/VerdictRing.vue';

/** The pictures that are kept with an attempt, and the way to take one. */
const props = defineProps<{ classId: string; attemptId: string; open: boolean }>();
const rows = shallowRef<readonly FaceRow[]>([]);
onMounted(async () => {
  // Without the server the sheet works all the same; the pictures are there again with it.
  rows.value = await call(ROUTES.faces, {
    params: { id: props.classId },
    query: { attemptId: props.attemptId },
  }).catch(() => []);
});
</script>

<template>
  <div class="row faces" aria-label="Pictures of its end faces" role="group">
    <RouterLink
      v-for="r in rows.slice(0, 4)"
      :key="r.id"
      class="act face"
      :to="{ name: 'faces', params: { classId }, query: { attempt: attemptId, face: r.id } }"
    >
      <img :src="pictureUrl(classId, r.id)" alt="" width="46" height="34" />
      <VerdictRing v-if="r.verdict" :verdict="r.verdict" :size="20" word />
      <span v-else class="soft">not graded</span>
    </RouterLink>
    <RouterLink
      v-if="open"
      class="act"
      :to="{ name: 'faces', params: { classId }, query: { attempt: attemptId } }"
      >{{ rows.length === 0 ? 'Look at its end face' : 'Another picture' }}</RouterLink
    >
  </div>
</template>

<style scoped>
.face {
  padding: 0 10px 0 4px;
}
img {
  object-fit: cover;
  background: #000;
}
</style>
