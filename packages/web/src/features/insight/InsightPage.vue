<script setup lang="ts">
import { type ClassDetail, ResultFilter, type Results } from '@clear-mark/contract';
import { DEFAULT_POLICY } from '@clear-mark/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { call, ROUTES, wordsOf } from '../../api/client.ts';
import FailureList from './FailureList.vue';
import LossSamples from './LossSamples.vue';
import NeedsList from './NeedsList.vue';
import type { RecordsLink } from './records-link.ts';
import SkillRates from './SkillRates.vue';
import SplitTable from './SplitTable.vue';
import StandingTable from './StandingTable.vue';
import SuggestionList from './SuggestionList.vue';

const props = defineProps<{ classId: string }>();
const route = useRoute();
const router = useRouter();
const results = shallowRef<Results | null>(null);
const detail = shallowRef<ClassDetail | null>(null);
const failure = ref<string | null>(null);

const filter = computed(() => {
  const parsed = ResultFilter.safeParse(route.query);
  return parsed.success ? parsed.data : {};
});
const key = computed(() => JSON.stringify(filter.value));
const narrowed = computed(() => Object.values(filter.value).some((v) => v !== undefined));
const link: RecordsLink = (more) => ({
  name: 'records',
  params: { classId: props.classId },
  query: { ...filter.value, ...more } as Record<string, string>,
});

function set(name: string, event: Event): void {
  const value = (event.target as HTMLInputElement | HTMLSelectElement).value;
  const { [name]: _, ...rest } = route.query;
  void router.replace({ query: value === '' ? rest : { ...rest, [name]: value } });
}

watch(
  key,
  async () => {
    try {
      const params = { id: props.classId };
      [results.value, detail.value] = await Promise.all([
        call(ROUTES.results, { params, query: filter.value as never }),
        detail.value ?? call(ROUTES.classDetail, { params }),
      ]);
      failure.value = null;
    } catch (error) {
      failure.value = wordsOf(error);
    }
  },
  { immediate: true },
);
</script>

<template>
  <div class="page">
    <div class="row spread">
      <div>
        <h1>Insight</h1>
        <p v-if="results" class="soft">{{ results.signed }} signed attempts</p>
      </div>
      <div class="row filters">
        <label class="field"
          ><span>Trainee</span>
          <select class="act" :value="filter.trainee ?? ''" @change="set('trainee', $event)">
            <option value="">all</option>
            <option v-for="t in detail?.trainees ?? []" :key="t.id" :value="t.id">{{ t.name }}</option>
          </select>
        </label>
        <label class="field"
          ><span>Thing used</span>
          <select class="act" :value="filter.thing ?? ''" @change="set('thing', $event)">
            <option value="">any</option>
            <option v-for="t in detail?.things ?? []" :key="t.id" :value="t.id">{{ t.label }}</option>
          </select>
        </label>
        <label class="field"
          ><span>From</span
          ><input class="act" type="date" :value="filter.from ?? ''" @change="set('from', $event)"
        /></label>
        <label class="field"
          ><span>To</span><input class="act" type="date" :value="filter.to ?? ''" @change="set('to', $event)"
        /></label>
      </div>
    </div>
    <p v-if="narrowed" class="notice">
      Rates and samples are narrowed; standings always rest on the whole history.
      <RouterLink :to="{ query: {} }">Show everything</RouterLink>
    </p>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <template v-if="results">
      <p v-if="results.signed === 0" class="empty">
        Nothing is signed yet, so there is nothing to count.
        <RouterLink class="act next" :to="{ name: 'today', params: { classId } }"
          >To today’s benches</RouterLink
        >
      </p>
      <template v-else>
        <section class="section">
          <h2>Who needs what again</h2>
          <NeedsList
            :results="results"
            :wanted="(detail?.policy ?? DEFAULT_POLICY).passesInARow"
            :link="link"
          />
        </section>
        <section class="section">
          <h2>Pass rate of each skill</h2>
          <SkillRates :results="results" :link="link" />
        </section>
        <section class="section">
          <h2>Where everyone stands</h2>
          <StandingTable :results="results" :link="link" />
        </section>
        <section class="section">
          <h2>Loss of the finished ends</h2>
          <LossSamples :class-id="classId" :filter="filter" :samples="results.losses" :link="link" />
        </section>
        <section class="section">
          <h2>What fails most, by points lost</h2>
          <FailureList :failures="results.failures" :link="link" />
        </section>
        <section class="section">
          <h2>Suggested causes, taken up or put away</h2>
          <SuggestionList :class-id="classId" />
        </section>
        <section class="section">
          <h2>Trainee, tool or day?</h2>
          <SplitTable :class-id="classId" :filter="filter" :link="link" />
        </section>
      </template>
    </template>
  </div>
</template>

<style scoped>
.filters {
  margin-bottom: 14px;
  align-items: flex-end;
}
.filters .act {
  justify-content: flex-start;
  max-width: 190px;
}
.empty {
  display: grid;
  gap: 12px;
  justify-items: start;
  padding: 40px 0;
  font-size: 1.125rem;
}
</style>
