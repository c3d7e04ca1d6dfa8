<script setup lang="ts">
import type { ResultFilter, Results, Differences } from '@clear-mark/contract';
import { noDifferenceWords, differenceWords } from '@clear-mark/words';
import { ROUTES } from '../../../api/client.ts';
import { useReply } from '../../../api/queries.ts';
import FailureList from './FailureList.vue';
import type { RecordsLink } from '../records-link.ts';
import SplitTable from '../learning/SplitTable.vue';
import SuggestionList from './SuggestionList.vue';

const props = defineProps<{
  classId: string;
  filter: ResultFilter;
  results: Results;
  link: RecordsLink;
}>();
type Difference = Differences['skills'][number];
const linkOf = ({ skill, source, id }: Difference) =>
  props.link({ skill, verdict: 'failed', ...(source === 'trainee' ? { trainee: id } : { thing: id }) });
const given = () => ({ params: { id: props.classId }, query: props.filter as never });
const { found, failure } = useReply(ROUTES.failingTogether, given);
const { found: out, failure: outFailure } = useReply(ROUTES.differences, given);
</script>

<template>
  <section class="section">
    <h2>Trainee, tool or day?</h2>
    <template v-if="out">
      <p v-if="out.skills.length === 0" data-test="stands-out">{{ noDifferenceWords(out.compared) }}</p>
      <ul v-else class="lines" data-test="stands-out">
        <li v-for="s in out.skills" :key="s.skill + s.id">
          {{ differenceWords(s) }} <RouterLink class="small" :to="linkOf(s)">failed pieces</RouterLink>
        </li>
      </ul>
      <details>
        <summary>How trainee and tool are told apart</summary>
        <p class="soft">
          A tool is compared with the others of its kind in the hands of the same trainee in the same week, a
          trainee with the others of the same week: expected is what all of them passed there, the test is
          exact, given what each trainee and week holds (after Mantel &amp; Haenszel 1959), adjusted by Holm
          (1979) over all {{ out.compared }} comparisons. With nothing but chance at work one class in twenty
          shows a line here.
        </p>
      </details>
    </template>
    <SplitTable :class-id="classId" :filter="filter" :link="link" />
  </section>
  <section class="section">
    <h2>What fails most, by points lost</h2>
    <FailureList
      :failures="results.failures"
      :pieces="found?.pieces ?? []"
      :who="out?.criteria ?? []"
      :link="link"
    />
    <p v-if="failure ?? outFailure" class="notice bad" role="alert">{{ failure ?? outFailure }}</p>
  </section>
  <section v-if="found" class="section">
    <h2>What fails together</h2>
    <p v-if="found.pairs.length === 0" class="soft">
      No two criteria fail together more often than chance explains.
    </p>
    <ul v-else class="lines" data-test="together">
      <li v-for="p in found.pairs" :key="p.first + p.second">
        <b>{{ p.firstLabel }}</b> and <b>{{ p.secondLabel }}</b>: together on {{ p.together }} pieces,
        {{ p.expected.toFixed(1) }} by chance
        <span class="soft small">({{ p.firstFailed }} and {{ p.secondFailed }} of {{ p.of }} failed)</span>
        <RouterLink class="small" :to="link({ criterion: p.first, criterionLabel: p.firstLabel })"
          >pieces</RouterLink
        >
      </li>
    </ul>
    <details v-if="found.pairs.length > 0">
      <summary>How this is found</summary>
      <p class="soft">
        Fisher’s exact test of each pair that failed together at least three times, adjusted by Holm (1979)
        over all of them at the 5 % level; expected = product of the two counts over all pieces of the method.
        One fault can make another: the step that comes first is the one to look at.
      </p>
    </details>
  </section>
  <section class="section">
    <h2>Suggested causes: charged or dismissed</h2>
    <SuggestionList :class-id="classId" />
  </section>
</template>

<style scoped>
.lines {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
}
.lines li {
  min-height: var(--tap);
  padding: 8px 0;
  border-bottom: 1px solid var(--hair);
}
</style>
