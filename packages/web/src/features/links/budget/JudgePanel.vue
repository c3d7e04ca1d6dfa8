<script setup lang="ts">
import {
  type Direction,
  DIRECTIONS,
  DomainError,
  type LinkPlan,
  type LossRules,
  lossTerms,
  linkUnderTest,
  parseDecimal,
  partKey,
  POWER_UNITS,
  type PowerUnit,
  convertPower,
  readingsAgree,
  type ReferenceMethod,
  wavelengthsOf,
  typedOrNull,
} from '@clear-mark/core';
import type { ErrorCode } from '@clear-mark/contract';
import { conclusionWords, DIRECTION_WORDS, errorWords, reasonWords, UNIT_WORDS } from '@clear-mark/words';
import { computed, reactive, ref } from 'vue';
import BandScale from '../../../shared/BandScale.vue';
import VerdictRing from '../../../shared/VerdictRing.vue';
import { judgeLink, type TypedReading } from './link.model.ts';
import ChoiceField from '../../../shared/ChoiceField.vue';

/** Losses of this link as read: the verdict of each, what they say together, and the trainee's reading beside it. */
const props = defineProps<{
  plan: LinkPlan;
  method: ReferenceMethod;
  rules: LossRules;
  conditioned: boolean | null;
}>();
const texts = reactive<Record<string, string>>({});
const trainee = reactive<Record<string, string>>({});
const both = ref(false);

const rows = computed(() =>
  wavelengthsOf(props.plan.fiberClass).flatMap((wavelengthNm) =>
    (both.value ? DIRECTIONS : (['a_b'] as const)).map((direction) => ({
      wavelengthNm,
      direction,
      part: partKey({ fiber: null, wavelengthNm, direction }),
    })),
  ),
);
const problems = computed(() => {
  const found: Record<string, string> = {};
  for (const { part } of rows.value) {
    for (const [key, text] of [
      [part, texts[part]],
      [`${part} trainee`, trainee[part]],
    ] as const) {
      if (!text?.trim()) continue;
      try {
        parseDecimal(text);
      } catch (error) {
        if (!(error instanceof DomainError)) throw error;
        found[key] = errorWords(error.code as ErrorCode, error.params);
      }
    }
  }
  return found;
});
const readings = computed<TypedReading[]>(() =>
  rows.value.flatMap(({ wavelengthNm, direction, part }) =>
    texts[part]?.trim() && !problems.value[part]
      ? [{ wavelengthNm, direction: direction as Direction, text: texts[part]!.trim() }]
      : [],
  ),
);
const judged = computed(() =>
  judgeLink(props.plan, props.method, props.rules, readings.value, props.conditioned),
);
const link = computed(() => linkUnderTest(props.plan, props.method));
const lines = computed(() =>
  rows.value.map((row) => {
    const terms = lossTerms(link.value, props.rules, row.wavelengthNm);
    const found = judged.value.parts.find((p) => p.part === row.part) ?? null;
    const own = typedOrNull(trainee[row.part] ?? '');
    const agreement =
      found && found.lossDb !== null && own !== null && !problems.value[`${row.part} trainee`]
        ? readingsAgree(own, found.lossDb, terms.uncertaintyDb, terms.uncertaintyDb)
        : null;
    return { ...row, terms, found, agreement };
  }),
);

const power = reactive<{ text: string; unit: PowerUnit }>({ text: '-20', unit: 'dBm' });
const converted = computed(() => {
  const value = typedOrNull(power.text);
  if (value === null || (power.unit !== 'dBm' && value <= 0)) return null;
  return POWER_UNITS.map((unit) => ({ unit, value: convertPower(value, power.unit, unit) }));
});
const short = (x: number): string =>
  Math.abs(x) >= 1e5 || (Math.abs(x) < 1e-4 && x !== 0)
    ? x.toExponential(3)
    : String(Number(x.toPrecision(6)));
</script>

<template>
  <section class="section">
    <div class="row spread">
      <h2>What did it lose</h2>
      <el-button size="large" :aria-pressed="both" @click="both = !both">From both ends</el-button>
    </div>
    <div class="line head small soft">
      <span /><span>Instructor’s reading</span><span /><span /><span>Trainee’s reading</span>
    </div>
    <div v-for="line in lines" :key="line.part" class="line" :data-part="line.part">
      <span
        ><b>{{ line.wavelengthNm }}</b>
        <span class="unit">nm{{ both ? `, ${DIRECTION_WORDS[line.direction]}` : '' }}</span></span
      >
      <label class="typed">
        <el-input
          v-model="texts[line.part]"
          inputmode="text"
          autocomplete="off"
          :aria-label="`Loss at ${line.wavelengthNm} nm${both ? ` ${DIRECTION_WORDS[line.direction]}` : ''}, dB`"
        />
        <span class="unit">dB</span>
      </label>
      <BandScale
        :scale="{
          from: 0,
          to: line.terms.limitDb * 2 || 1,
          lower: null,
          upper: line.terms.limitDb,
          target: line.terms.expectedDb,
        }"
        :value="line.found?.lossDb ?? null"
        :verdict="line.found?.verdict ?? null"
        unit="dB"
      />
      <span class="found">
        <VerdictRing v-if="line.found" :verdict="line.found.verdict" :size="26" word />
      </span>
      <label class="typed">
        <el-input
          v-model="trainee[line.part]"
          inputmode="text"
          autocomplete="off"
          :aria-label="`Trainee’s loss at ${line.wavelengthNm} nm, dB`"
        />
        <span class="unit">dB</span>
        <span v-if="line.agreement" class="small agree">
          {{ line.agreement.agree ? 'agrees' : 'does not agree' }}:
          {{ line.agreement.differenceDb.toFixed(2) }} dB apart, at most
          {{ line.agreement.mostDb.toFixed(2) }}
        </span>
      </label>
      <p v-if="problems[line.part] || problems[`${line.part} trainee`]" class="why" role="alert">
        {{ problems[line.part] ?? problems[`${line.part} trainee`] }}
      </p>
      <p v-else-if="line.found?.reason" class="why">
        {{ reasonWords(line.found.reason, () => 'Loss') }}
      </p>
    </div>
    <div v-if="judged.conclusions.length > 0" class="notice" data-test="conclusions" aria-live="polite">
      <p v-for="c in judged.conclusions" :key="c.code">{{ conclusionWords(c) }}</p>
    </div>
    <p v-else class="soft">Type a loss to have it judged against this link.</p>
    <details>
      <summary>Power in other units</summary>
      <div class="row">
        <el-input v-model="power.text" class="power" inputmode="text" aria-label="Power" />
        <ChoiceField
          v-model="power.unit"
          bare
          label="Unit"
          :options="POWER_UNITS.map((u) => ({ value: u, label: UNIT_WORDS[u] }))"
        />
        <template v-if="converted">
          <span v-for="c in converted" :key="c.unit"
            ><b>{{ short(c.value) }}</b> <span class="unit">{{ UNIT_WORDS[c.unit] }}</span></span
          >
        </template>
        <span v-else class="soft">No power has no level.</span>
      </div>
    </details>
  </section>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: 130px 130px minmax(120px, 1fr) 150px minmax(150px, 1.2fr);
  gap: 4px 12px;
  align-items: center;
  border-top: 1px solid var(--hair);
  padding: 6px 0;
}
.line > span > .unit {
  margin-left: 4px;
}
.head {
  border: 0;
}
.typed {
  display: inline-flex;
  align-items: baseline;
  gap: 4px;
  flex-wrap: wrap;
}
.typed .el-input,
.power {
  width: 104px;
  font-size: 1.375rem;
  font-weight: 700;
}
.typed :deep(input),
.power :deep(input) {
  text-align: right;
}
.why {
  grid-column: 2 / -1;
}
.notice p + p {
  margin-top: 6px;
}
@media (max-width: 800px) {
  .line {
    grid-template-columns: 1fr 1fr;
  }
  .head {
    display: none;
  }
}
</style>
