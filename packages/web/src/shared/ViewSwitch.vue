<script setup lang="ts" generic="V extends { readonly id: string; readonly label: string }">
import { useRouter } from 'vue-router';

/** The views of a place, one at a time, kept in the address with whatever else stands there. */
defineProps<{ place: string; views: readonly V[]; current: string }>();
const router = useRouter();
const open = (id: string): void =>
  void router.replace({ query: { ...router.currentRoute.value.query, view: id } });
</script>

<template>
  <div class="row views" role="group" :aria-label="`Views of ${place}`">
    <button
      v-for="v in views"
      :key="v.id"
      class="act"
      type="button"
      :aria-pressed="current === v.id"
      @click="open(v.id)"
    >
      {{ v.label }}
    </button>
  </div>
</template>

<style scoped>
.views {
  margin-bottom: 14px;
}
</style>
