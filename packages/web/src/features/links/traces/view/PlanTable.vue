<script setup lang="ts">
import {
  linkLoss,
  returnLoss,
  sameEventM,
  traceAgainstPlan,
  traceCauses,
  DomainError,
  type PlannedPlace,
} from '@clear-mark/core';
import { lossRulesFor } from '@clear-mark/methods/loss';
import { type ClassLink, isErrorCode } from '@clear-mark/contract';
import {
  CAUSE_WORDS,
  INCOMPLETE_WORDS,
  PLACE_NOTE_WORDS,
  TRACE_CAUSE_WORDS,
  errorWords,
  partsWords,
} from '@clear-mark/words';
import { computed } from 'vue';
import VerdictRing from '../../../../shared/VerdictRing.vue';
import { usePreferences } from '../../../../shell/preferences.ts';
import type { ShownTrace } from './shown-trace.ts';
import { placeWords } from './trace-view.model.ts';

/** The link as it is planned beside the trace: expected, found, limit, verdict. */
const props = defineProps<{
  shown: ShownTrace;
  range: { readonly fromM: number; readonly toM: number } | null;
  link: ClassLink | null;
  launchM: number | null;
}>();
const preferences = usePreferences();
const place = (m: number): string => placeWords(m, preferences.distanceUnit);
const loss = computed(() => linkLoss(props.shown.trace, props.shown.analysis!, props.range));
const back = computed(() =>
  props.range
    ? returnLoss(props.shown.trace, props.shown.analysis!, props.range.fromM, props.range.toM)
    : null,
);
const launchShort = computed(
  () =>
    props.range !== null && props.range.fromM > 0 && props.range.fromM < props.range.toM - props.range.fromM,
);
const compared = computed(() => {
  const { link, range, shown } = props;
  if (!link || !range) return null;
  try {
    return traceAgainstPlan(
      shown.analysis!,
      loss.value,
      link.plan,
      lossRulesFor(link.plan.fiberClass, link.referenceMethod, link.settings),
      Math.round(shown.trace.wavelengthNm),
      range.fromM,
      sameEventM(shown.trace),
    );
  } catch (error) {
    if (error instanceof DomainError && isErrorCode(error.code)) return errorWords(error.code, error.params);
    throw error;
  }
});
const plan = computed(() => (typeof compared.value === 'string' ? null : compared.value));
const causes = computed(() => (plan.value ? traceCauses(plan.value) : []));
const two = (x: number | null): string => (x === null ? '–' : x.toFixed(2));
</script>

<template>
  <section class="section" data-test="link-loss">
    <h2>The link, without its cords</h2>
    <dl class="facts">
      <dt>Loss</dt>
      <dd>
        <b class="figure">{{ loss.lossDb === null ? '–' : loss.lossDb.toFixed(2) }}</b>
        <span class="unit"
          >dB<template v-if="loss.uLossDb !== null">
            ± {{ Math.max(0.001, 2 * loss.uLossDb).toFixed(3) }}</template
          ></span
        >
        <VerdictRing v-if="plan?.verdict" :verdict="plan.verdict" :size="24" word />
        <span v-if="plan" class="soft">limit {{ plan.terms.limitDb.toFixed(2) }} dB</span>
      </dd>
      <template v-if="loss.why">
        <dt>Not complete</dt>
        <dd>{{ INCOMPLETE_WORDS[loss.why] }}</dd>
      </template>
      <dt>From, to</dt>
      <dd>
        {{ place(loss.fromM) }}, {{ place(loss.toM) }}: {{ place(loss.toM - loss.fromM)
        }}<template v-if="plan">, planned {{ place(plan.plannedM) }}</template>
      </dd>
      <template v-if="back">
        <dt>Return loss</dt>
        <dd>{{ back.atMost ? 'at most ' : '' }}{{ back.lossDb.toFixed(1) }} dB</dd>
      </template>
    </dl>
    <p v-if="launchShort" class="notice">
      The launch cord is shorter than the link: ghosts can lie in the link.
    </p>
    <template v-if="plan">
      <p v-if="plan.breakAtM !== null" class="notice bad">
        The fiber ends at {{ place(plan.breakAtM) }}, before its plan does: a break.
      </p>
      <el-table :data="[...plan.places]" row-key="atM" size="large" data-test="plan">
        <el-table-column label="Expected" min-width="180">
          <template #default="{ row }: { row: PlannedPlace }"
            >{{ partsWords(row.parts) }} at {{ place(row.atM) }}</template
          >
        </el-table-column>
        <el-table-column label="Found at" width="110" align="right">
          <template #default="{ row }: { row: PlannedPlace }">{{
            row.foundM === null ? '–' : place(row.foundM)
          }}</template>
        </el-table-column>
        <el-table-column label="Loss, dB" width="100" align="right">
          <template #default="{ row }: { row: PlannedPlace }"><b>{{ two(row.lossDb) }}</b></template>
        </el-table-column>
        <el-table-column label="Limit, dB" width="100" align="right">
          <template #default="{ row }: { row: PlannedPlace }">{{ row.limitDb.toFixed(2) }}</template>
        </el-table-column>
        <el-table-column label="Verdict" width="130">
          <template #default="{ row }: { row: PlannedPlace }"
            ><VerdictRing v-if="row.verdict" :verdict="row.verdict" :size="22" word
          /></template>
        </el-table-column>
        <el-table-column label="To know" min-width="200">
          <template #default="{ row }: { row: PlannedPlace }">{{
            row.note ? PLACE_NOTE_WORDS[row.note] : ''
          }}</template>
        </el-table-column>
      </el-table>
      <p v-for="e in plan.others" :key="e.positionM" class="notice">
        Not in the plan: an event at {{ place(e.positionM)
        }}<template v-if="e.lossDb !== null">, {{ e.lossDb.toFixed(2) }} dB</template>. A bend, a damage, or a
        joint that nobody wrote down.
      </p>
      <template v-if="causes.length > 0">
        <h3>What it points to</h3>
        <ul data-test="trace-causes">
          <li v-for="c in causes" :key="c.atM">
            At {{ place(c.atM) }}: <b>{{ CAUSE_WORDS[c.causes[0]!] }}</b>, since
            {{ TRACE_CAUSE_WORDS[c.because] }}.
            <span v-if="c.causes.length > 1" class="soft"
              >Otherwise
              {{
                c.causes
                  .slice(1)
                  .map((o) => CAUSE_WORDS[o])
                  .join(', or ')
              }}.</span
            >
          </li>
        </ul>
      </template>
    </template>
    <p v-else-if="typeof compared === 'string'" class="notice">{{ compared }}</p>
    <p v-else-if="!link" class="soft">Choose its link above, and each event is held against the plan.</p>
    <p v-else-if="launchM === null" class="soft">
      Say how long the launch cord is, and each event is held against the plan.
    </p>
  </section>
</template>

<style scoped>
.facts {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 4px 16px;
  margin: 6px 0 10px;
  align-items: baseline;
}
dt {
  color: var(--ink-soft);
}
dd {
  margin: 0;
  display: flex;
  gap: 10px;
  align-items: baseline;
  flex-wrap: wrap;
}
.figure {
  font-size: 1.8rem;
}
</style>
