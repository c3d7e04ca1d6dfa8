<script setup lang="ts">
import { bothDirections, describeLoss, fiberColour, histogram, verdictOfMark } from '@clear-mark/core';
import { computed, ref } from 'vue';
import { ROUTES } from '../../../api/client.ts';
import { useReply } from '../../../api/queries.ts';
import VerdictRing from '../../../shared/VerdictRing.vue';
import { TRAY, traysOf } from './splices.model.ts';

/** Splices in the trays that they lie in, and the class's distribution behind them. */
const props = defineProps<{ classId: string }>();
const { found: rows, failure } = useReply(ROUTES.splices, () => ({ params: { id: props.classId } }));
const chosen = ref<string | null>(null);
/** Redo from here on. House. */
const LIMIT_DB = 0.1;
const BIN_DB = 0.02;

const trays = computed(() => traysOf(rows.value ?? []));
const tray = computed(() => trays.value.find((t) => t.traineeId === chosen.value) ?? trays.value[0] ?? null);
const estimates = computed(() => (rows.value ?? []).flatMap((r) => r.estimateDb ?? []));
const summary = computed(() => describeLoss(estimates.value, LIMIT_DB));
const bars = computed(() => {
  const made = histogram(estimates.value, BIN_DB);
  if (!made) return [];
  const { from, width, counts } = made;
  const most = Math.max(1, ...counts);
  const own = (tray.value?.splices ?? []).flatMap((s) => s.estimateDb ?? []);
  return counts.map((count, i) => ({
    count,
    share: count / most,
    at: from + i * width,
    own: own.filter((x) => Math.floor((x - from) / width + 1e-9) === i).length,
    over: from + i * width >= LIMIT_DB - 1e-9,
  }));
});
const example = bothDirections(0.18, -0.06);
const gainer = example.state === 'complete' ? example : null;
const two = (x: number | null): string => (x === null ? '–' : x.toFixed(2));
const one = (x: number | null): string => (x === null ? '–' : x.toFixed(1));
</script>

<template>
  <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
  <template v-else-if="rows">
    <p v-if="trays.length === 0" class="notice">
      No splice of this class yet. Start a piece by the single or the ribbon fusion method, and its angles,
      estimate and proof test show here.
    </p>
    <template v-else>
      <div class="row" role="group" aria-label="Trays">
        <el-button
          v-for="t in trays"
          :key="t.traineeId"
          size="large"
          :aria-pressed="t === tray"
          @click="chosen = t.traineeId"
        >
          {{ t.traineeName }} <span class="small soft">{{ t.splices.length }}</span>
        </el-button>
      </div>
      <section v-if="tray" class="section">
        <h2>Tray of {{ tray.traineeName }}</h2>
        <ol class="tray">
          <li v-for="(s, i) in tray.splices" :key="`${s.attemptId}${s.fiber}`">
            <RouterLink :to="{ name: 'sheet', params: { classId, attemptId: s.attemptId } }" class="slot">
              <i :style="{ background: `var(--fiber-${fiberColour((i % TRAY) + 1)})` }" />
              <b>{{ s.pieceLabel }}{{ s.fiber === null ? '' : ` f${s.fiber}` }}</b>
              <span class="figure" :class="{ over: (s.estimateDb ?? 0) >= LIMIT_DB }">{{
                two(s.estimateDb)
              }}</span>
              <span class="unit">dB estimated{{ (s.estimateDb ?? 0) >= LIMIT_DB ? ', redo' : '' }}</span>
              <span class="small">{{ one(s.leftDeg) }}° left, {{ one(s.rightDeg) }}° right</span>
              <span class="small">{{
                s.proof === null ? 'proof not tested' : s.proof ? 'proof held' : 'broke in proof'
              }}</span>
              <span v-if="s.meanDb !== null" class="small">both ways {{ two(s.meanDb) }} dB</span>
              <VerdictRing :verdict="s.signed ? verdictOfMark(s.verdict) : 'incomplete'" :size="22" word />
            </RouterLink>
          </li>
        </ol>
      </section>
      <section class="section two">
        <div>
          <h2>The class’s splices, estimated loss</h2>
          <svg
            viewBox="0 0 560 190"
            class="chart"
            role="img"
            :aria-label="`${estimates.length} splices, median ${two(summary?.median ?? null)} dB`"
          >
            <line x1="30" x2="550" y1="150" y2="150" class="axis" />
            <g v-for="(bar, i) in bars" :key="i" :transform="`translate(${30 + (i * 520) / bars.length} 0)`">
              <rect
                :x="2"
                :width="520 / bars.length - 4"
                :y="150 - 130 * bar.share"
                :height="130 * bar.share"
                :class="bar.over ? 'over' : 'all'"
              />
              <rect
                :x="2"
                :width="520 / bars.length - 4"
                :y="150 - (130 * bar.share * bar.own) / Math.max(1, bar.count)"
                :height="(130 * bar.share * bar.own) / Math.max(1, bar.count)"
                class="own"
              />
              <text :x="260 / bars.length" y="168" text-anchor="middle">{{ bar.at.toFixed(2) }}</text>
              <text
                v-if="bar.count > 0"
                :x="260 / bars.length"
                :y="144 - 130 * bar.share"
                text-anchor="middle"
              >
                {{ bar.count }}
              </text>
            </g>
            <text x="290" y="186" text-anchor="middle">
              dB, {{ estimates.length }} splices; dark: this tray; hatched: {{ LIMIT_DB.toFixed(2) }} and over
            </text>
          </svg>
        </div>
        <dl v-if="summary" class="facts">
          <dt>Splices</dt>
          <dd>{{ summary.n }}</dd>
          <dt>Median</dt>
          <dd>{{ two(summary.median) }} dB</dd>
          <dt>Mean</dt>
          <dd>{{ summary.mean.toFixed(3) }} dB</dd>
          <dt>To be redone</dt>
          <dd>
            {{ estimates.filter((x) => x >= LIMIT_DB).length }} of {{ summary.n }} (house: 0.10 dB and over)
          </dd>
          <dt>Read both ways</dt>
          <dd>{{ rows.filter((r) => r.meanDb !== null).length }}</dd>
        </dl>
      </section>
      <section class="section">
        <h2>Why a splice can show a gain</h2>
        <p>
          Fibers of different mode field scatter back differently: read from one side the joint shows too much
          loss, from the other too little, even a gain. Example: +0.18 dB and −0.06 dB are a loss of
          {{ two(gainer!.lossDb) }} dB with a step of {{ two(gainer!.fieldStepDb) }} dB either way. Only the
          mean of both is the loss.
        </p>
      </section>
    </template>
  </template>
</template>

<style scoped>
.tray {
  list-style: none;
  margin: 10px 0 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(188px, 1fr));
  gap: 10px;
}
.slot {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 2px 8px;
  padding: 8px 10px;
  border-top: 1px solid var(--hair-strong);
  color: var(--ink);
  text-decoration: none;
}
.slot:hover {
  background: var(--sunk);
}
.slot > :not(i, b, .figure, .unit) {
  grid-column: 1 / -1;
}
i {
  width: 16px;
  height: 16px;
  border: 1px solid var(--ink-soft);
  border-radius: 50%;
  align-self: center;
}
.figure.over {
  text-decoration: underline;
  text-decoration-thickness: 3px;
}
.unit {
  align-self: end;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 1fr);
  gap: 28px;
}
.chart {
  width: 100%;
}
.axis {
  stroke: var(--hair-strong);
}
.all {
  fill: var(--band);
}
.over {
  fill: none;
  stroke: var(--ink);
  stroke-dasharray: 3 3;
}
.own {
  fill: var(--glass);
}
text {
  font-size: 13px;
  fill: var(--ink-soft);
}
.facts {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 6px 16px;
  margin: 0;
  align-content: start;
}
dt {
  color: var(--ink-soft);
}
dd {
  margin: 0;
  font-weight: 700;
}
@media (max-width: 800px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
