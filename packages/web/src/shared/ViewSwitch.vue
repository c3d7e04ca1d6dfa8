<script setup lang="ts" generic="V extends { readonly id: string; readonly label: string }">
import { useRouter } from 'vue-router';

/** The views of a place as tabs, one at a time, kept in the address with whatever else stands there. */
defineProps<{ place: string; views: readonly V[]; current: string }>();
const router = useRouter();
const open = (id: string): void =>
  void router.replace({ query: { ...router.currentRoute.value.query, view: id } });
</script>

<template>
  <el-tabs
    class="views"
    :model-value="current"
    :aria-label="`Views of ${place}`"
    @update:model-value="(id: string | number) => open(String(id))"
  >
    <el-tab-pane v-for="v in views" :key="v.id" :name="v.id" :label="v.label" lazy>
      <slot v-if="v.id === current" />
    </el-tab-pane>
  </el-tabs>
</template>

<style scoped>
.views {
  --el-tabs-header-height: var(--tap);
}
.views :deep(.el-tabs__header) {
  margin-bottom: 14px;
}
.views :deep(.el-tabs__item) {
  font-size: 1rem;
  font-weight: 400;
  color: var(--ink);
}
.views :deep(.el-tabs__item.is-active) {
  font-weight: 700;
  color: var(--accent);
}
.views :deep(.el-tabs__active-bar) {
  height: 3px;
}
/* The line under the tabs is the line above the first section. */
.views :deep(.el-tab-pane > .section:first-child) {
  border-top: 0;
  padding-top: 0;
}
/* What sticks or casts an outline is not cut off. */
.views :deep(.el-tabs__content) {
  overflow: visible;
}
@media print {
  .views :deep(.el-tabs__header) {
    display: none;
  }
}
</style>
