<script setup lang="ts">
import type { InstructorsView, ResultFilter } from '@clear-mark/contract';
import { call, ROUTES } from '../../api/client.ts';
import { useLoaded } from '../../shared/use-loaded.ts';
import { rateWords } from './insight.model.ts';
import type { RecordsLink } from './records-link.ts';

/** For the lead alone: how alike instructors judge, and what the items tell. */
const props = defineProps<{ classId: string; filter: ResultFilter; link: RecordsLink }>();
const { found, failure } = useLoaded(
  () => props.filter,
  () => call(ROUTES.instructorsView, { params: { id: props.classId }, query: props.filter as never }),
);
type Kappa = InstructorsView['pairs'][number]['kappa'];
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
      <table v-else class="plain" data-test="leniency">
        <thead>
          <tr>
            <th>Instructor</th>
            <th>Passed of signed</th>
            <th class="n">Expected</th>
            <th class="n">More than expected</th>
            <th>95 % interval</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="l in found.leniency" :key="l.id">
            <td>{{ l.name }}</td>
            <td>{{ rateWords(l.rate) }}</td>
            <td class="n">{{ (100 * l.expected).toFixed(1) }} %</td>
            <td class="n">
              <b>{{ points(l.difference) }}</b> points
            </td>
            <td>{{ points(l.low) }} to {{ points(l.high) }}</td>
            <td>
              {{
                l.differs
                  ? l.difference > 0
                    ? 'lenient beyond chance'
                    : 'strict beyond chance'
                  : 'as the others'
              }}
            </td>
          </tr>
        </tbody>
      </table>
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
      <table v-else class="plain" data-test="agreement">
        <thead>
          <tr>
            <th>Two instructors</th>
            <th>On</th>
            <th class="n">both pass</th>
            <th class="n">only the first</th>
            <th class="n">only the second</th>
            <th class="n">both fail</th>
            <th>Kappa (Cohen 1960)</th>
            <th>AC1 (Gwet 2008)</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in found.pairs" :key="p.first + p.second + p.what">
            <td>{{ p.first }} and {{ p.second }}</td>
            <td>{{ p.what === 'pieces' ? 'the same pieces' : 'the same series of faces' }}</td>
            <td class="n">{{ p.table[0]![0] }}</td>
            <td class="n">{{ p.table[0]![1] }}</td>
            <td class="n">{{ p.table[1]![0] }}</td>
            <td class="n">{{ p.table[1]![1] }}</td>
            <td>{{ kappaWords(p.kappa) }}</td>
            <td>{{ kappaWords(p.ac1) }}</td>
          </tr>
        </tbody>
      </table>
    </section>
    <section class="section">
      <h2>Criteria that split instructors, or never fail</h2>
      <p v-if="found.items.length === 0" class="soft">
        No criterion splits the instructors beyond chance, and each has failed at least once.
      </p>
      <table v-else class="plain" data-test="items">
        <thead>
          <tr>
            <th>Criterion</th>
            <th class="n">Failed of scored</th>
            <th>What it tells</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="i in found.items" :key="i.criterionId">
            <td>
              {{ i.label }}<span class="small soft step">{{ i.stepTitle }}</span>
            </td>
            <td class="n">
              <RouterLink
                v-if="i.failed > 0"
                :to="link({ criterion: i.criterionId, criterionLabel: i.label })"
                >{{ i.failed }} of {{ i.n }}</RouterLink
              ><template v-else>0 of {{ i.n }}</template>
            </td>
            <td v-if="i.splits">
              Splits:
              {{ i.splits.shares.map((s) => `${s.name} failed ${s.failed} of ${s.n}`).join(', ') }}
            </td>
            <td v-else>
              Never failed; its true share is under {{ (100 * i.upper).toFixed(1) }} %. It tells nobody apart.
            </td>
          </tr>
        </tbody>
      </table>
    </section>
  </template>
</template>

<style scoped>
.step {
  display: block;
}
</style>
