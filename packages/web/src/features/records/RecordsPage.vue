<script setup lang="ts">
import { AttemptListFilter, CSV_PATHS } from '@clear-mark/contract';
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import { call, pathOf, ROUTES } from '../../api/client.ts';
import { useLoaded } from '../../shared/use-loaded.ts';
import AttemptTable from './AttemptTable.vue';
import { filterWords } from './attempt-table.model.ts';

const props = defineProps<{ classId: string }>();
const route = useRoute();
const filter = computed(() => {
  const parsed = AttemptListFilter.safeParse(route.query);
  return parsed.success ? parsed.data : {};
});
const params = computed(() => ({ id: props.classId }));
const { found: list, failure } = useLoaded(
  () => [params.value, filter.value],
  () => call(ROUTES.attemptList, { params: params.value, query: filter.value as never }),
);
const { found: detail } = useLoaded(
  () => params.value,
  () => call(ROUTES.classDetail, { params: params.value }),
);
const query = computed(() => route.query as Record<string, string>);
const words = computed(() =>
  filterWords(filter.value, {
    trainee: detail.value?.trainees.find((t) => t.id === filter.value.trainee)?.name ?? null,
    thing: detail.value?.things.find((t) => t.id === filter.value.thing)?.label ?? null,
    criterion: query.value['criterionLabel'] ?? null,
  }),
);
const PAGE = 100;
const skip = computed(() => filter.value.skip ?? 0);
const page = (n: number) => ({ query: { ...query.value, skip: n === 0 ? undefined : String(n) } });
const csv = computed(() => ({
  attempts: pathOf(CSV_PATHS.attempts, { id: props.classId }, filter.value),
  outcomes: pathOf(CSV_PATHS.outcomes, { id: props.classId }, filter.value),
}));
</script>

<template>
  <div class="page">
    <div class="row spread">
      <div>
        <h1>Records</h1>
        <p>
          {{ words }}
          <RouterLink v-if="Object.keys(route.query).length > 0" :to="{ query: {} }">show all</RouterLink>
        </p>
      </div>
      <div class="row">
        <a class="act" :href="csv.attempts" download>Attempts as CSV</a>
        <a class="act" :href="csv.outcomes" download>Outcomes as CSV</a>
      </div>
    </div>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <template v-if="list">
      <p class="soft" data-test="total">
        {{ list.total }} {{ list.total === 1 ? 'attempt' : 'attempts'
        }}<template v-if="list.total > list.rows.length"
          >, {{ skip + 1 }} to {{ skip + list.rows.length }} shown, newest first</template
        >
      </p>
      <p v-if="list.total === 0" class="soft">
        Nothing is signed here yet. A sheet is signed at its bench, under Today.
      </p>
      <AttemptTable
        v-else
        :rows="list.rows"
        with-trainee
        :to="(row) => ({ name: 'sheet', params: { classId, attemptId: row.attemptId } })"
      />
      <div v-if="list.total > list.rows.length && filter.last === undefined" class="row pages">
        <RouterLink v-if="skip > 0" class="act" :to="page(Math.max(0, skip - PAGE))">Newer</RouterLink>
        <RouterLink v-if="skip + list.rows.length < list.total" class="act" :to="page(skip + PAGE)"
          >Older</RouterLink
        >
      </div>
    </template>
  </div>
</template>

<style scoped>
.pages {
  margin-top: 14px;
}
</style>
