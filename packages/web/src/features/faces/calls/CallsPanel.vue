<script setup lang="ts">
import type { CallSeries } from '@clear-mark/contract';
import { computed, reactive, ref } from 'vue';
import { pictureUrl, ROUTES } from '../../../api/client.ts';
import { useReply } from '../../../api/queries.ts';
import KeptPicture from '../../../shared/KeptPicture.vue';
import VerdictRing from '../../../shared/VerdictRing.vue';
import { isNearLimit } from '@clear-mark/core';
import { choiceProblem, nearestToLimit } from './calls.model.ts';
import CallsResultView from './CallsResultView.vue';
import { type SeriesOrder, useSeries } from './use-series.ts';
import ChoiceField from '../../../shared/ChoiceField.vue';

/** Series of faces that are called blind: set, called by whoever is in the class, and what came of it. */
const props = defineProps<{ classId: string }>();
const {
  found: series,
  failure,
  again,
} = useReply(ROUTES.callSeries, () => ({ params: { id: props.classId } }));
const { found: faces } = useReply(ROUTES.faces, () => ({ params: { id: props.classId } }));
/** Pictures that are chosen at once. */
const MOST_NEAR = 12;
const making = ref(false);
const from = ref<'scope' | 'kept'>('scope');
const chosen = ref<ReadonlySet<string>>(new Set());
const open = ref<string | null>(null);
const maker = useSeries(() => props.classId);
const order = reactive({ label: '', faces: 12, missWeight: 3, seconds: '' });

const graded = computed(() => (faces.value ?? []).filter((f) => f.verdict !== null && f.view === 'single'));
const problem = computed(() => {
  if (order.label.trim() === '') return 'Give the series a name.';
  if (from.value === 'scope') return null;
  return choiceProblem(graded.value.filter((f) => chosen.value.has(f.id)).map((f) => f.verdict));
});

function pick(id: string): void {
  const next = new Set(chosen.value);
  if (!next.delete(id)) next.add(id);
  chosen.value = next;
}
async function make(): Promise<void> {
  const seconds = order.seconds === '' ? null : Number(order.seconds);
  const wanted: SeriesOrder = {
    label: order.label.trim(),
    faces: order.faces,
    missWeight: order.missWeight,
    secondsEach: seconds,
  };
  const made =
    from.value === 'scope' ? await maker.fromScope(wanted) : await maker.fromKept(wanted, [...chosen.value]);
  if (!made) return;
  making.value = false;
  order.label = '';
  chosen.value = new Set();
  await again();
}
const runWords = (s: CallSeries): string => {
  const done = s.runs.filter((r) => r.result !== null).length;
  if (s.runs.length === 0) return 'nobody yet';
  return done === s.runs.length ? `${done} called it` : `${done} called it, ${s.runs.length - done} at it`;
};
</script>

<template>
  <section aria-label="Blind calls">
    <div class="row spread">
      <p class="lead">
        Calling a bad face good is a miss, and weighs more than a false alarm: a missed face goes into a
        panel.
      </p>
      <el-button v-if="!making" size="large" type="primary" @click="making = true">Set a series</el-button>
    </div>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <form v-if="making" class="make" aria-label="New series" @submit.prevent="make">
      <div class="row fields">
        <label class="field"><span>Name</span><el-input v-model="order.label" maxlength="60" /></label>
        <ChoiceField
          v-model="from"
          label="Faces from"
          :options="[
            { value: 'scope', label: 'the simulated scope, near the limits' },
            { value: 'kept', label: 'the pictures of this class' },
          ]"
        />
        <ChoiceField
          v-if="from === 'scope'"
          v-model="order.faces"
          label="How many"
          :options="[8, 12, 20, 40].map((n) => ({ value: n, label: String(n) }))"
        />
        <ChoiceField
          v-model="order.missWeight"
          label="A miss weighs"
          :options="[1, 2, 3, 5, 10].map((n) => ({ value: n, label: `${n} false alarm${n > 1 ? 's' : ''}` }))"
        />
        <ChoiceField
          v-model="order.seconds"
          label="Time for each"
          none="no limit"
          :options="['15', '30', '60'].map((n) => ({ value: n, label: `${n} s` }))"
        />
      </div>
      <div v-if="from === 'kept'" class="row">
        <el-button size="large" @click="chosen = new Set(nearestToLimit(graded, MOST_NEAR))">
          Choose those nearest to the limit
        </el-button>
        <span class="soft">{{ chosen.size }} chosen</span>
      </div>
      <ul v-if="from === 'kept'" class="pick">
        <li v-for="f in graded" :key="f.id">
          <button class="tile" type="button" :aria-pressed="chosen.has(f.id)" @click="pick(f.id)">
            <KeptPicture :src="pictureUrl(classId, f.id)" :alt="f.label" lazy :width="132" :height="99" />
            <VerdictRing :verdict="f.verdict!" :size="20" word />
            <span v-if="f.chance !== null && isNearLimit(f.chance)" class="small">near the limit</span>
          </button>
        </li>
        <li v-if="graded.length === 0" class="soft">No graded picture is kept yet.</li>
      </ul>
      <div class="row">
        <el-button
          size="large"
          type="primary"
          native-type="submit"
          :disabled="problem !== null || maker.done.value !== null"
        >
          Save series
        </el-button>
        <el-button size="large" @click="(maker.stop(), (making = false))">Cancel</el-button>
        <span v-if="maker.done.value !== null" role="status"
          >Making the faces, {{ Math.round((100 * maker.done.value) / order.faces) }} %</span
        >
        <span v-else-if="problem" class="soft">{{ problem }}</span>
      </div>
      <p v-if="maker.failure.value" class="notice bad" role="alert">{{ maker.failure.value }}</p>
    </form>
    <p v-if="series && series.length === 0 && !making" class="soft">
      No series is set. Set one, and each trainee finds it on their own page.
    </p>
    <article v-for="s in series ?? []" :key="s.id" class="section" :data-series="s.label">
      <div class="row spread">
        <div>
          <h2>{{ s.label }}</h2>
          <p class="soft small">
            {{ s.faces }} faces, {{ s.bad }} bad; a miss weighs {{ s.missWeight }};
            {{ s.secondsEach ? `${s.secondsEach} s each` : 'no time limit' }}; {{ runWords(s) }}
          </p>
        </div>
        <RouterLink class="act" :to="{ name: 'calls', params: { seriesId: s.id } }"
          >Call it yourself</RouterLink
        >
      </div>
      <ul class="runs">
        <li v-for="r in s.runs" :key="r.id">
          <button
            class="run"
            type="button"
            :aria-expanded="open === r.id"
            :disabled="!r.result"
            @click="open = open === r.id ? null : r.id"
          >
            <b>{{ r.personName }}</b>
            <span v-if="r.result">
              {{ r.result.misses }} missed, {{ r.result.falseAlarms }} false
              {{ r.result.falseAlarms === 1 ? 'alarm' : 'alarms' }}
            </span>
            <span v-else class="soft">at face {{ r.answered + 1 }} of {{ s.faces }}</span>
          </button>
          <div v-if="open === r.id && r.result" class="result">
            <CallsResultView :result="r.result" :miss-weight="s.missWeight" />
            <RouterLink
              v-if="r.attemptId"
              class="act"
              :to="{ name: 'sheet', params: { classId, attemptId: r.attemptId } }"
              >Its sheet</RouterLink
            >
          </div>
        </li>
      </ul>
      <p v-for="a in s.agreements" :key="a.one + a.other" class="small">
        {{ a.one }} and {{ a.other }}: the same in {{ a.same }} of {{ a.n
        }}<template v-if="a.kappa !== null"
          >, kappa {{ a.kappa.toFixed(2) }} ({{ a.low!.toFixed(2) }} to {{ a.high!.toFixed(2) }})</template
        >
      </p>
    </article>
  </section>
</template>

<style scoped>
.lead {
  max-width: 62ch;
}
.make {
  margin: 12px 0 8px;
  padding: 14px 0;
  border-top: 1px solid var(--hair);
  display: grid;
  gap: 12px;
}
.fields {
  align-items: end;
  gap: 14px;
}
.fields label {
  display: grid;
  gap: 2px;
}
.fields input {
  width: 200px;
}
ul {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
}
.pick {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  max-height: 330px;
  overflow: auto;
}
.tile {
  display: grid;
  gap: 2px;
  padding: 6px;
  border: 1px solid var(--hair);
  border-radius: var(--round);
  background: var(--sheet);
  cursor: pointer;
}
.tile[aria-pressed='true'] {
  border-color: var(--accent);
  box-shadow: inset 0 0 0 2px var(--accent);
  background: var(--accent-wash);
}
.tile img {
  width: 112px;
  height: 84px;
  object-fit: cover;
}
.run {
  display: flex;
  gap: 18px;
  justify-content: space-between;
  align-items: center;
  width: min(100%, 520px);
  min-height: var(--tap);
  padding: 0 4px;
  border: 0;
  border-bottom: 1px solid var(--hair);
  background: transparent;
  cursor: pointer;
  text-align: left;
}
.result {
  padding: 10px 4px 14px;
}
</style>
