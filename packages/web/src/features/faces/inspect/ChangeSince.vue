<script setup lang="ts">
import { compareFaces, type GradedFace } from '@clear-mark/core';
import { computed } from 'vue';
import KeptPicture from '../../../shared/KeptPicture.vue';

/** Before and after cleaning: what went was dirt, what stays after three cleans is damage. */
const props = defineProps<{ before: GradedFace; after: GradedFace; url: string }>();
const change = computed(() => compareFaces(props.before.features, props.after.features));
const words = computed(() => {
  const { went, stayed, came } = change.value;
  const parts = [`${went.length} went`, `${stayed.length} stayed`, `${came.length} came`];
  if (came.length > 0)
    return `${parts.join(', ')}. What came was brought by the cleaning: clean again, dry first.`;
  if (stayed.length > 0) return `${parts.join(', ')}. What stays after three cleans is damage.`;
  return `${parts.join(', ')}.`;
});
</script>

<template>
  <div class="since" data-test="since">
    <KeptPicture :src="url" alt="Picture before cleaning" :width="150" />
    <div>
      <h3>Since the picture before cleaning</h3>
      <p>{{ words }}</p>
    </div>
  </div>
</template>

<style scoped>
.since {
  display: grid;
  grid-template-columns: 150px minmax(0, 1fr);
  gap: 14px;
  align-items: center;
  margin-top: 12px;
  padding-top: 12px;
  border-top: 1px solid var(--hair);
}
img {
  background: #000;
  width: 150px;
}
</style>
