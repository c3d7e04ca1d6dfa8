<script setup lang="ts">
import { MEASURED_PICTURE_PATH } from '@clear-mark/contract';
import { pathOf, ROUTES } from '../../api/client.ts';
import { useReply } from '../../api/queries.ts';
import KeptPicture from '../../shared/KeptPicture.vue';

/** The pictures that values of a piece were measured in. */
const props = defineProps<{ classId: string; attemptId: string }>();
const { found: pictures } = useReply(ROUTES.measuredPictures, () => ({
  params: { id: props.classId, attemptId: props.attemptId },
}));
const src = (pictureId: string): string =>
  pathOf(MEASURED_PICTURE_PATH, { id: props.classId, attemptId: props.attemptId, pictureId });
</script>

<template>
  <div v-if="pictures && pictures.length > 0" class="row" aria-label="Measured pictures" role="group">
    <a
      v-for="p in pictures.slice(-3)"
      :key="p.id"
      class="act picture"
      :href="src(p.id)"
      target="_blank"
      data-test="measured-picture"
    >
      <KeptPicture :src="src(p.id)" alt="" :width="46" :height="34" />
      <span>{{ p.value }}° ± {{ p.expanded }}°</span>
    </a>
  </div>
</template>

<style scoped>
.picture {
  padding: 0 10px 0 4px;
}
img {
  object-fit: cover;
  background: #000;
}
</style>
