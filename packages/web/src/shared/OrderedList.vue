<script setup lang="ts" generic="T extends { readonly key: string; readonly label: string }">
import Sortable from 'sortablejs';
import { onMounted, onUnmounted, ref } from 'vue';

/** An order that is changed by dragging a line by its handle, or by the buttons at its end. */
const props = defineProps<{ items: readonly T[]; label: string }>();
const emit = defineEmits<{ move: [from: number, to: number] }>();
const list = ref<HTMLElement | null>(null);
let sortable: Sortable | null = null;
onMounted(() => {
  sortable = Sortable.create(list.value!, {
    handle: '.handle',
    animation: 120,
    onEnd: ({ item, oldIndex, newIndex }) => {
      if (oldIndex === undefined || newIndex === undefined || oldIndex === newIndex) return;
      // What was dragged goes back: the list is drawn from its items, which are moved by whoever has them.
      item.parentElement?.insertBefore(
        item,
        item.parentElement.children[oldIndex + (oldIndex > newIndex ? 1 : 0)] ?? null,
      );
      emit('move', oldIndex, newIndex);
    },
  });
});
onUnmounted(() => sortable?.destroy());
</script>

<template>
  <ol ref="list" class="order" :aria-label="label">
    <li v-for="(item, i) in props.items" :key="item.key" :data-key="item.key">
      <span class="handle" aria-hidden="true">⋮⋮</span>
      <span class="what"><slot :item="item" :index="i">{{ item.label }}</slot></span>
      <el-button
        size="large"
        text
        :disabled="i === 0"
        :aria-label="`${item.label} earlier`"
        @click="emit('move', i, i - 1)"
        >↑</el-button
      >
      <el-button
        size="large"
        text
        :disabled="i === props.items.length - 1"
        :aria-label="`${item.label} later`"
        @click="emit('move', i, i + 1)"
        >↓</el-button
      >
    </li>
  </ol>
</template>

<style scoped>
.order {
  list-style: none;
  margin: 0;
  padding: 0;
  max-width: 480px;
}
li {
  display: flex;
  align-items: center;
  gap: 4px;
  border-top: 1px solid var(--hair);
  background: var(--sheet);
}
li:first-child {
  border-top: 0;
}
.handle {
  cursor: grab;
  width: 32px;
  min-height: var(--tap);
  display: grid;
  place-items: center;
  color: var(--ink-soft);
  touch-action: none;
}
.what {
  flex: 1;
}
.el-button {
  margin: 0;
  min-width: 44px;
}
</style>
