<script setup lang="ts">
import type { InstructorsView, ResultFilter } from '@clear-mark/contract';
import { ROUTES } from '../../../api/client.ts';
import { useReply } from '../../../api/queries.ts';
import { rateWords } from '@clear-mark/words';
import type { RecordsLink } from '../records-link.ts';

/** For the lead alone: how alike instructors judge, and what the items tell. */
const props = defineProps<{ classId: string; filter: ResultFilter; link: RecordsLink }>();
const { found, failure } = useReply(ROUTES.instructorsView, () => ({
  params: { id: props.classId },
  query: props.filter as never,
}));
type Pair = InstructorsView['pairs'][number];
type Lenient = InstructorsView['leniency'][number];
type Item = InstructorsView['items'][number];
type Kappa = Pair['kappa'];
const kappaWords = (k: Kappa): string =>
  k.kind === 'kappa' ? `${k.kappa.toFixed(2)} (${k.low.toFixed(2)} to ${k.high.toFixed(2)})` : 'not defined';
function points(share: number): string {
  const text = Math.abs(100 * share).toFixed(1);
  return text === '0.0' ? '0.0' : `${share > 0 ? '+' : '−'}${text}`;
}
</script>

<template>
  <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
  <template v-if="found">
    <section class="section">
      <h2>Who is lenient, who is strict</h2>
      <p v-if="found.leniency.length === 0" class="soft">
        No two instructors signed work of the same trainee, skill and week, so they cannot be compared.
      </p>
      <el-table v-else :data="found.leniency" row-key="id" data-test="leniency">
        <el-table-column prop="name" label="Instructor" sortable min-width="160" />
        <el-table-column label="Passed of signed" min-width="240">
          <template #default="{ row }: { row: Lenient }">{{ rateWords(row.rate) }}</template>
        </el-table-column>
        <el-table-column prop="expected" label="Expected" sortable align="right" width="130">
          <template #default="{ row }: { row: Lenient }">{{ (100 * row.expected).toFixed(1) }} %</template>
        </el-table-column>
        <el-table-column prop="difference" label="More than expected" sortable align="right" width="200">
          <template #default="{ row }: { row: Lenient }"><b>{{ points(row.difference) }}</b> points</template>
        </el-table-column>
        <el-table-column label="95 % interval" min-width="140">
          <template #default="{ row }: { row: Lenient }"
            >{{ points(row.low) }} to {{ points(row.high) }}</template
          >
        </el-table-column>
        <el-table-column label="What it tells" min-width="180">
          <template #default="{ row }: { row: Lenient }">{{
            row.differs
              ? row.difference > 0
                ? 'lenient beyond chance'
                : 'strict beyond chance'
              : 'as the others'
          }}</template>
        </el-table-column>
      </el-table>
      <details>
        <summary>How this is counted</summary>
        <p class="soft">
          Only work is compared that others signed too: the same trainee, skill and week. Expected: the share
          that all of them passed there; the test is exact, given what each of them holds (after Mantel &amp;
          Haenszel 1959), adjusted by Holm (1979). The rate stands for all of an instructor’s signed outcomes.
        </p>
      </details>
    </section>
    <section class="section">
      <h2>Do two judge alike?</h2>
      <p v-if="found.pairs.length === 0" class="soft">
        No piece was signed and no series called by two instructors yet. Two who call the same series of
        faces, or score the same piece, will be compared here.
      </p>
      <el-table v-else :data="found.pairs" data-test="agreement">
        <el-table-column label="Two instructors" min-width="220">
          <template #default="{ row }: { row: Pair }">{{ row.first }} and {{ row.second }}</template>
        </el-table-column>
        <el-table-column label="On" min-width="170">
          <template #default="{ row }: { row: Pair }">{{
            row.what === 'pieces' ? 'the same pieces' : 'the same series of faces'
          }}</template>
        </el-table-column>
        <el-table-column prop="table[0][0]" label="both pass" align="right" width="110" />
        <el-table-column prop="table[0][1]" label="only the first" align="right" width="130" />
        <el-table-column prop="table[1][0]" label="only the second" align="right" width="150" />
        <el-table-column prop="table[1][1]" label="both fail" align="right" width="100" />
        <el-table-column label="Kappa (Cohen 1960)" min-width="180">
          <template #default="{ row }: { row: Pair }">{{ kappaWords(row.kappa) }}</template>
        </el-table-column>
        <el-table-column label="AC1 (Gwet 2008)" min-width="180">
          <template #default="{ row }: { row: Pair }">{{ kappaWords(row.ac1) }}</template>
        </el-table-column>
      </el-table>
    </section>
    <section class="section">
      <h2>Criteria that split instructors, or never fail</h2>
      <p v-if="found.items.length === 0" class="soft">
        No criterion splits the instructors beyond chance, and each has failed at least once.
      </p>
      <el-table v-else :data="found.items" row-key="criterionId" data-test="items">
        <el-table-column prop="label" label="Criterion" sortable min-width="260">
          <template #default="{ row }: { row: Item }"
            >{{ row.label }}<span class="small soft step">{{ row.stepTitle }}</span></template
          >
        </el-table-column>
        <el-table-column prop="failed" label="Failed of scored" sortable align="right" width="180">
          <template #default="{ row }: { row: Item }">
            <RouterLink
              v-if="row.failed > 0"
              :to="link({ criterion: row.criterionId, criterionLabel: row.label })"
              >{{ row.failed }} of {{ row.n }}</RouterLink
            ><template v-else>0 of {{ row.n }}</template>
          </template>
        </el-table-column>
        <el-table-column label="What it tells" min-width="320">
          <template #default="{ row }: { row: Item }">
            <template v-if="row.splits"
              >Splits:
              {{
                row.splits.shares.map((s) => `${s.name} failed ${s.failed} of ${s.n}`).join(', ')
              }}</template
            >
            <template v-else
              >Never failed; its true share is under {{ (100 * row.upper).toFixed(1) }} %. It tells nobody
              apart.</template
            >
          </template>
        </el-table-column>
      </el-table>
    </section>
  </template>
</template>

<style scoped>
.step {
  display: block;
}
</style>
