<script setup lang="ts">
import type { ClassDetail, ResultFilter } from '@clear-mark/contract';
import { computed, ref } from 'vue';
import { useClassroom } from '../../classroom/use-classroom.ts';
import ChoiceField from '../../shared/ChoiceField.vue';
import DayRange from '../../shared/DayRange.vue';
import FilterChips from '../../shared/FilterChips.vue';
import { useResultFilter } from '../../shared/use-result-filter.ts';

/** What the results are narrowed to; every choice lives in the address. */
const props = defineProps<{ filter: ResultFilter; detail: ClassDetail | null }>();
const classroom = useClassroom();
const { trainees, equipment, course, methodsOf, set, clear, chipsOf } = useResultFilter(() => props.detail);
const chips = computed(() => chipsOf(props.filter));
const open = ref(false);
const groups = computed(() =>
  [...new Set(props.detail?.trainees.map((t) => t.group).filter((g) => g !== '') ?? [])].sort(),
);
const methods = computed(() => methodsOf((props.detail?.methods ?? []).filter((m) => m.inUse)));
</script>

<template>
  <div class="row bar">
    <el-button size="large" :aria-expanded="open" @click="open = !open">
      {{ open ? 'Hide the filters' : 'Filter' }}
    </el-button>
    <FilterChips :chips="chips" @clear="clear" @all="clear(chips.flatMap((c) => c.keys))" />
  </div>
  <div v-if="open" class="row filters">
    <ChoiceField
      label="Trainee"
      none="all"
      :model-value="filter.trainee ?? ''"
      :options="trainees"
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
      :options="equipment"
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
.bar {
  justify-content: flex-end;
}
.filters {
  flex-basis: 100%;
  justify-content: flex-end;
  margin-bottom: 12px;
  align-items: flex-end;
}
.filters :deep(.choice) {
  max-width: 200px;
}
</style>
