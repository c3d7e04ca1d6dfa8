<script setup lang="ts">
import type { ClassDetail, ResultFilter } from '@clear-mark/contract';
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useClassroom } from '../../classroom/use-classroom.ts';
import ChoiceField from '../../shared/ChoiceField.vue';
import DayRange from '../../shared/DayRange.vue';

/** What the results are narrowed to; every choice lives in the address. */
const props = defineProps<{ filter: ResultFilter; detail: ClassDetail | null }>();
const route = useRoute();
const router = useRouter();
const classroom = useClassroom();
const groups = computed(() =>
  [...new Set(props.detail?.trainees.map((t) => t.group).filter((g) => g !== '') ?? [])].sort(),
);
const methods = computed(() => {
  const byId = new Map(props.detail?.methods.filter((m) => m.inUse).map((m) => [m.methodId, m.title]));
  return [...byId].map(([value, label]) => ({ value, label }));
});
const course = computed(() =>
  props.detail ? { from: props.detail.startsOn, to: props.detail.endsOn } : null,
);

/** An empty choice leaves the address. */
function set(choices: Readonly<Record<string, string>>): void {
  const query = { ...route.query, ...choices };
  for (const [name, value] of Object.entries(choices)) if (value === '') delete query[name];
  void router.replace({ query });
}
</script>

<template>
  <div class="row filters">
    <ChoiceField
      label="Trainee"
      none="all"
      :model-value="filter.trainee ?? ''"
      :options="(detail?.trainees ?? []).map((t) => ({ value: t.id, label: t.name }))"
      @change="(trainee) => set({ trainee })"
    />
    <ChoiceField
      v-if="groups.length > 0"
      label="Group"
      none="all"
      :model-value="filter.group ?? ''"
      :options="groups.map((g) => ({ value: g, label: g }))"
      @change="(group) => set({ group })"
    />
    <ChoiceField
      label="Method"
      none="all"
      :model-value="filter.method ?? ''"
      :options="methods"
      @change="(method) => set({ method })"
    />
    <ChoiceField
      label="Equipment"
      none="any"
      :model-value="filter.thing ?? ''"
      :options="(detail?.things ?? []).map((t) => ({ value: t.id, label: t.label }))"
      @change="(thing) => set({ thing })"
    />
    <DayRange
      label="Days"
      :from="filter.from ?? ''"
      :to="filter.to ?? ''"
      :today="classroom.today()"
      :course="course"
      @change="set"
    />
  </div>
</template>

<style scoped>
.filters {
  margin-bottom: 12px;
  align-items: flex-end;
}
.filters :deep(.choice) {
  max-width: 200px;
}
</style>
