<script setup lang="ts">
import { type Skill, SKILLS, VERDICTS } from '@clear-mark/core';
import type { AttemptListFilter, ClassDetail } from '@clear-mark/contract';
import { skillInText, VERDICT_WORDS } from '@clear-mark/words';
import { useDebounceFn } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { useClassroom } from '../../classroom/use-classroom.ts';
import ChoiceField from '../../shared/ChoiceField.vue';
import DayRange from '../../shared/DayRange.vue';
import { useResultFilter } from '../../shared/use-result-filter.ts';

/** What the records are narrowed to; every choice lives in the address. */
const props = defineProps<{
  filter: AttemptListFilter;
  detail: ClassDetail | null;
  ownSkills: readonly Skill[];
}>();
const classroom = useClassroom();
const { trainees, equipment, course, methodsOf, set } = useResultFilter(() => props.detail);
const WAIT_MS = 300;
/** Choices beyond the search stay folded until one of them is made. */
const BEYOND = ['method', 'verdict', 'skill', 'thing', 'instructor', 'from', 'to'] as const;
const open = ref(BEYOND.some((key) => props.filter[key] !== undefined));

const text = ref(props.filter.search ?? '');
watch(
  () => props.filter.search,
  (now) => {
    if ((now ?? '') !== text.value.trim()) text.value = now ?? '';
  },
);
const search = useDebounceFn(() => set({ search: text.value.trim() }), WAIT_MS);

const methods = computed(() => methodsOf(props.detail?.methods ?? []));
const RESULTS = [
  { value: 'passed', label: 'passed' },
  { value: 'failed', label: 'failed' },
  ...VERDICTS.map((v) => ({ value: v as string, label: VERDICT_WORDS[v].toLowerCase() })),
];
</script>

<template>
  <div class="row filters">
    <el-input
      v-model="text"
      class="search"
      size="large"
      clearable
      maxlength="60"
      aria-label="Search trainee or piece"
      placeholder="Trainee or piece"
      @input="search"
      @clear="set({ search: '' })"
    />
    <ChoiceField
      label="Trainee"
      none="all"
      :model-value="filter.trainee ?? ''"
      :options="trainees"
      @change="(trainee) => set({ trainee })"
    />
    <ChoiceField
      label="Result"
      none="any"
      :model-value="filter.verdict ?? ''"
      :options="RESULTS"
      @change="(verdict) => set({ verdict })"
    />
    <el-button size="large" :aria-expanded="open" @click="open = !open">
      {{ open ? 'Fewer filters' : 'More filters' }}
    </el-button>
  </div>
  <div v-if="open" class="row filters">
    <ChoiceField
      label="Method"
      none="all"
      :model-value="filter.method ?? ''"
      :options="methods"
      @change="(method) => set({ method })"
    />
    <ChoiceField
      label="Result in"
      none="the whole piece"
      :model-value="filter.skill ?? ''"
      :options="[...SKILLS, ...ownSkills].map((s) => ({ value: s as string, label: skillInText(s) }))"
      @change="(skill) => set({ skill })"
    />
    <ChoiceField
      label="Equipment"
      none="any"
      :model-value="filter.thing ?? ''"
      :options="equipment"
      @change="(thing) => set({ thing })"
    />
    <ChoiceField
      label="Signed by"
      none="anybody"
      :model-value="filter.instructor ?? ''"
      :options="(detail?.instructors ?? []).map((i) => ({ value: i.id, label: i.name }))"
      @change="(instructor) => set({ instructor })"
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
  align-items: flex-end;
  margin-top: 8px;
}
.search {
  width: 240px;
}
.filters :deep(.choice) {
  max-width: 220px;
}
</style>
