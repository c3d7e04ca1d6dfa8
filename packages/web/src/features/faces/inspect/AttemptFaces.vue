<script setup lang="ts">
import { pictureUrl, ROUTES } from '../../../api/client.ts';
import { useReply } from '../../../api/queries.ts';
import KeptPicture from '../../../shared/KeptPicture.vue';
import VerdictRing from '../../../shared/VerdictRing.vue';

/** The pictures that are kept with an attempt, and the way to take one. */
const props = defineProps<{ classId: string; attemptId: string; open: boolean }>();
// Without the server the sheet works all the same; the pictures are there again with it.
const { found: rows } = useReply(ROUTES.faces, () => ({
  params: { id: props.classId },
  query: { attemptId: props.attemptId },
}));
</script>

<template>
  <div class="row faces" aria-label="Pictures of its end faces" role="group">
    <RouterLink
      v-for="r in rows?.slice(0, 4)"
      :key="r.id"
      class="act face"
      :to="{ name: 'faces', params: { classId }, query: { attempt: attemptId, face: r.id } }"
    >
      <KeptPicture :src="pictureUrl(classId, r.id)" alt="" :width="46" :height="34" />
      <VerdictRing v-if="r.verdict" :verdict="r.verdict" :size="20" word />
      <span v-else class="soft">not graded</span>
    </RouterLink>
    <RouterLink
      v-if="open"
      class="act"
      :to="{ name: 'faces', params: { classId }, query: { attempt: attemptId } }"
      >{{ rows?.length ? 'Another picture' : 'Look at its end face' }}</RouterLink
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
