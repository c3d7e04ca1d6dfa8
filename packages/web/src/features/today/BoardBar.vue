<script setup lang="ts">
import ChoiceField from '../../shared/ChoiceField.vue';
import { BOARD_ORDERS, type BoardOrder, NEED_WORDS, type NeedKind, ORDER_WORDS } from './needs.model.ts';

/** How many benches want what, each a filter; the group, the order and the size of the board. */
defineProps<{
  all: number;
  counts: readonly { readonly kind: NeedKind; readonly n: number }[];
  filter: NeedKind | null;
  groups: readonly string[];
  group: string;
  order: BoardOrder;
  room: boolean;
}>();
const emit = defineEmits<{
  filter: [kind: NeedKind | null];
  group: [name: string];
  order: [order: BoardOrder];
  room: [large: boolean];
}>();
const orders = BOARD_ORDERS.map((value) => ({ value, label: ORDER_WORDS[value] }));
</script>

<template>
  <div class="bar">
    <div class="row needs" role="group" aria-label="Benches shown">
      <el-button size="large" :aria-pressed="filter === null" @click="emit('filter', null)">
        All <b class="count">{{ all }}</b>
      </el-button>
      <el-button
        v-for="c in counts"
        :key="c.kind"
        size="large"
        :data-need="c.kind"
        :aria-pressed="filter === c.kind"
        @click="emit('filter', filter === c.kind ? null : c.kind)"
      >
        {{ NEED_WORDS[c.kind] }} <b class="count">{{ c.n }}</b>
      </el-button>
    </div>
    <div class="row how">
      <ChoiceField
        v-if="groups.length > 1"
        bare
        label="Group"
        none="all groups"
        :model-value="group"
        :options="groups.map((g) => ({ value: g, label: g }))"
        @change="emit('group', $event)"
      />
      <ChoiceField
        bare
        label="Order of the board"
        :model-value="order"
        :options="orders"
        @change="emit('order', $event)"
      />
      <el-button size="large" :aria-pressed="room" @click="emit('room', !room)">Room screen</el-button>
    </div>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 8px 20px;
  margin-bottom: 10px;
}
.needs .el-button + .el-button {
  margin-left: 0;
}
.count {
  margin-left: 8px;
}
.how {
  margin-left: auto;
}
</style>
