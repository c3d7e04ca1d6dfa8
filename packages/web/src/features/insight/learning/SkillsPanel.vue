<script setup lang="ts">
import type { ResultFilter } from '@clear-mark/contract';
import { skillWords } from '@clear-mark/words';
import { computed, defineAsyncComponent } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { ROUTES } from '../../../api/client.ts';
import { useReply } from '../../../api/queries.ts';
import type { RecordsLink } from '../records-link.ts';
import { firstPassWords, paceWords, trendWords } from './skills.model.ts';

const props = defineProps<{ classId: string; filter: ResultFilter; link: RecordsLink }>();
const LearningChart = defineAsyncComponent(() => import('./LearningChart.vue'));
const DaysChart = defineAsyncComponent(() => import('./DaysChart.vue'));
const route = useRoute();
const router = useRouter();
const { found: skills, failure } = useReply(ROUTES.skillsInTime, () => ({
  params: { id: props.classId },
  query: props.filter as never,
}));
const shown = computed(
  () => skills.value?.find((s) => s.skill === route.query['skill']) ?? skills.value?.[0],
);
const pick = (skill: string): void => void router.replace({ query: { ...route.query, skill } });

/** A choice of days or of a thing leaves out attempts in between. */
const parted = computed(
  () => props.filter.from !== undefined || props.filter.to !== undefined || props.filter.thing !== undefined,
);
function openAttempt(nth: number): void {
  void router.push(props.link({ skill: shown.value!.skill, verdict: 'judged', nth }));
}
function openDay(day: string): void {
  void router.push(props.link({ skill: shown.value!.skill, verdict: 'judged', from: day, to: day }));
}
</script>

<template>
  <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
  <p v-if="skills?.length === 0" class="soft">Nothing of any skill is signed within this choice.</p>
  <template v-if="skills && shown">
    <div class="row" role="group" aria-label="Skill">
      <el-button
        v-for="s in skills"
        :key="s.skill"
        size="large"
        :aria-pressed="s.skill === shown.skill"
        @click="pick(s.skill)"
      >
        {{ skillWords(s.skill) }}
      </el-button>
    </div>
    <section class="section" :data-learned="shown.skill">
      <h2>{{ skillWords(shown.skill) }}: from attempt to attempt</h2>
      <p v-if="shown.learning.length === 0" class="soft">
        All outcomes are void or incomplete, so there is nothing to draw.
      </p>
      <template v-else>
        <p class="trend">{{ trendWords(shown) }}</p>
        <LearningChart :skill="shown" @open="openAttempt" />
        <p class="soft small">
          A tap on a point opens its attempts.
          {{ parted ? 'Attempts are numbered within the choice above.' : '' }}
        </p>
        <dl class="first">
          <div>
            <dt>Attempts to the first pass</dt>
            <dd>{{ firstPassWords(shown.attempts, 'attempts') }}</dd>
          </div>
          <div>
            <dt>Minutes at the bench to the first pass</dt>
            <dd>{{ firstPassWords(shown.minutes, 'minutes') }}</dd>
          </div>
          <div>
            <dt>Minutes of a piece</dt>
            <dd>{{ paceWords(shown.pace) }}</dd>
          </div>
        </dl>
      </template>
      <details>
        <summary>How this is counted</summary>
        <p class="soft">
          Points: share passed of all trainees’ first, second, ... outcomes with a verdict, with Wilson’s 95 %
          interval (Wilson 1927); hollow where under five trainees came so far. Line: the same never falling,
          by isotonic regression (pool adjacent violators, Ayer and others 1955). Trend: logistic regression
          on the attempt number, Wald interval. First pass: Kaplan &amp; Meier 1958, those without a pass
          counted as not yet; minutes run from the start of an attempt to its last entry, all attempts before
          the first pass together. Minutes of a piece: power law by least squares of logarithms, R² in
          logarithms.
        </p>
      </details>
    </section>
    <section class="section">
      <h2>{{ skillWords(shown.skill) }}: day by day</h2>
      <DaysChart :skill="shown" @open="openDay" />
      <p class="soft small">
        A day’s rate with its 95 % interval; a wide bar rests on few pieces. A tap on a day opens its
        attempts.
      </p>
    </section>
  </template>
</template>

<style scoped>
.trend {
  margin: 4px 0 8px;
  max-width: 860px;
}
.first {
  display: grid;
  gap: 10px;
  margin: 10px 0;
}
dt {
  font-size: 0.875rem;
  color: var(--ink-soft);
}
dd {
  margin: 0;
  font-size: 1.125rem;
}
</style>
