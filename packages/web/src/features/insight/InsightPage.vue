<script setup lang="ts">
import { ResultFilter } from '@clear-mark/contract';
import { DEFAULT_POLICY } from '@clear-mark/core';
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import { ROUTES } from '../../api/client.ts';
import { useReply } from '../../api/queries.ts';
import { useSession } from '../../session/session.ts';
import { PLACE_VIEWS } from '../../shell/places.ts';
import ViewSwitch from '../../shared/ViewSwitch.vue';
import InsightFilter from './InsightFilter.vue';
import InstructorsPanel from './failures/InstructorsPanel.vue';
import LossSamples from './loss/LossSamples.vue';
import type { RecordsLink } from './records-link.ts';
import SkillsPanel from './learning/SkillsPanel.vue';
import WhatIfPanel from './what-if/WhatIfPanel.vue';
import WhoPanel from './needs/WhoPanel.vue';
import WhyPanel from './failures/WhyPanel.vue';

const props = defineProps<{ classId: string }>();
const route = useRoute();
const session = useSession();
const VIEWS = PLACE_VIEWS.insight;
const views = computed(() => VIEWS.filter((v) => v.id !== 'instructors' || session.me?.role === 'lead'));
const view = computed(() => views.value.find((v) => v.id === route.query['view'])?.id ?? 'who');
const busiest = computed(
  () =>
    results.value?.losses[0]?.methodId ??
    results.value?.failures[0]?.criterionId.split('/').slice(0, 2).join('/') ??
    null,
);
const policy = computed(() => detail.value?.policy ?? DEFAULT_POLICY);

const filter = computed(() => {
  const parsed = ResultFilter.safeParse(route.query);
  return parsed.success ? parsed.data : {};
});
const params = computed(() => ({ id: props.classId }));
const {
  found: results,
  failure,
  again,
} = useReply(ROUTES.results, () => ({
  params: params.value,
  query: filter.value as never,
}));
const { found: detail } = useReply(ROUTES.classDetail, () => ({ params: params.value }));
const narrowed = computed(() => Object.values(filter.value).some((v) => v !== undefined));
const link: RecordsLink = (more) => ({
  name: 'records',
  params: { classId: props.classId },
  query: { ...filter.value, ...more } as Record<string, string>,
});
</script>

<template>
  <div class="page">
    <div class="row spread head">
      <div>
        <h1>Insight</h1>
        <p v-if="results" class="soft">
          {{ results.signed }} signed {{ results.signed === 1 ? 'attempt' : 'attempts' }}
        </p>
      </div>
      <InsightFilter :filter="filter" :detail="detail" />
    </div>
    <ViewSwitch place="Insight" :views="views" :current="view">
      <p v-if="narrowed" class="notice narrowed">
        Rates and samples are narrowed; standings always rest on the whole history.
      </p>
      <p v-if="failure" class="notice bad" role="alert">
        {{ failure }} <el-button size="large" @click="again">Try again</el-button>
      </p>
      <el-skeleton v-if="!results && !failure" :rows="8" animated />
      <template v-if="results">
        <p v-if="results.signed === 0" class="empty">
          {{
            narrowed
              ? 'Nothing is signed within this choice.'
              : 'Nothing is signed yet, so there is nothing to count.'
          }}
          <RouterLink class="act next" :to="{ name: 'today', params: { classId } }"
            >To today’s benches</RouterLink
          >
        </p>
        <WhoPanel
          v-else-if="view === 'who'"
          :class-id="classId"
          :results="results"
          :policy="policy"
          :link="link"
        />
        <SkillsPanel v-else-if="view === 'skills'" :class-id="classId" :filter="filter" :link="link" />
        <section v-else-if="view === 'loss'" class="section">
          <h2>Loss of the finished ends</h2>
          <LossSamples :class-id="classId" :filter="filter" :samples="results.losses" :link="link" />
        </section>
        <WhyPanel
          v-else-if="view === 'why'"
          :class-id="classId"
          :filter="filter"
          :results="results"
          :link="link"
        />
        <WhatIfPanel
          v-else-if="view === 'what-if' && detail"
          :detail="detail"
          :filter="filter"
          :busiest="busiest"
        />
        <InstructorsPanel
          v-else-if="view === 'instructors'"
          :class-id="classId"
          :filter="filter"
          :link="link"
        />
      </template>
    </ViewSwitch>
  </div>
</template>

<style scoped>
.head {
  align-items: flex-end;
}
.narrowed {
  margin-bottom: 12px;
}
.empty {
  display: grid;
  gap: 12px;
  justify-items: start;
  padding: 40px 0;
  font-size: 1.125rem;
}
</style>
