<script setup lang="ts">
import { MEASURED_PICTURE_PATH } from '@clear-mark/contract';
import { pathOf } from '../../api/client.ts';
import KeptPicture from '../../shared/KeptPicture.vue';

/** The pictures that values of a piece were measured in, as its entries name them: nothing is asked of the server but the pictures. */
const props = defineProps<{
  classId: string;
  attemptId: string;
  measured: readonly {
    readonly id: string;
    readonly text: string;
    readonly expanded: string;
    readonly unit: string;
  }[];
}>();
/** Degrees stand close to their number. */
const unitOf = (unit: string): string => (unit === 'deg' ? '°' : ` ${unit}`);
const src = (pictureId: string): string =>
  pathOf(MEASURED_PICTURE_PATH, { id: props.classId, attemptId: props.attemptId, pictureId });
</script>

<template>
  <div class="row" aria-label="Measured pictures" role="group">
    <a
      v-for="m in measured.slice(-3)"
      :key="m.id"
      class="act picture"
      :href="src(m.id)"
      target="_blank"
      data-test="measured-picture"
    >
      <KeptPicture :src="src(m.id)" alt="" :width="46" :height="34" />
      <span>{{ m.text }}{{ unitOf(m.unit) }} ± {{ m.expanded }}{{ unitOf(m.unit) }}</span>
    </a>
  </div>
</template>

<style scoped>
/* Each goes to the next row by itself. */
.row {
  display: contents;
}
.picture {
  padding: 0 10px 0 4px;
}
img {
  object-fit: cover;
  background: #000;
}
</style>
