<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core';
import { computed, ref } from 'vue';
import { ROUTES } from '../../../api/client.ts';
import { useReply } from '../../../api/queries.ts';
import { useClassroom } from '../../../classroom/use-classroom.ts';
import { clockText } from '../../../shared/time-words.ts';
import { loadsInside } from './now.model.ts';
import { useOvenTone } from './use-oven-tone.ts';

/** The clocks of the ovens on every device of the class: seen in every place, heard once each when a load is to be taken out. */
const props = defineProps<{ classId: string }>();
const classroom = useClassroom();
const reply = useReply(ROUTES.day, () => ({ params: { id: props.classId, day: classroom.today() } }));
const now = ref(Date.now() + classroom.offsetMs);
useIntervalFn(() => (now.value = Date.now() + classroom.offsetMs), 1000);
const inside = computed(() => loadsInside(reply.found.value?.loads ?? [], now.value));
const labelOf = (id: string): string => classroom.detail?.things.find((t) => t.id === id)?.label ?? 'Oven';
useOvenTone(() => inside.value.filter((l) => l.left <= 0).map((l) => l.load.id));
</script>

<template>
  <div v-if="inside.length > 0" class="strip" role="region" aria-label="Ovens">
    <RouterLink
      v-for="{ load, left } in inside"
      :key="load.id"
      class="oven"
      :class="{ due: left <= 0 }"
      :to="{ name: 'day', params: { classId }, query: { view: 'now' } }"
    >
      {{ labelOf(load.ovenId) }} <b>{{ left > 0 ? clockText(left) : 'take out' }}</b>
    </RouterLink>
  </div>
</template>

<style scoped>
.strip {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  padding: 4px 14px;
  background: var(--sunk);
}
.oven {
  min-height: var(--tap);
  display: inline-flex;
  align-items: center;
  gap: 8px;
  padding: 0 12px;
  border: 1px solid var(--hair-strong);
  border-radius: var(--round);
  background: var(--sheet);
  color: var(--ink);
  text-decoration: none;
  font-variant-numeric: tabular-nums;
}
.due {
  border: 2px solid var(--fail);
  background: var(--fail-wash);
}
</style>
