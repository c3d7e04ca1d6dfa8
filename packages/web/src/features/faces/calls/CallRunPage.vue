<script setup lang="ts">
import { type Call, FACE_FAULTS, type FaceFault } from '@clear-mark/core';
import type { FinishedRun, OwnSeries } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { useEventListener, useIntervalFn } from '@vueuse/core';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { request, NoServer, callPictureUrl, ROUTES, wordsOf } from '../../../api/client.ts';
import KeptPicture from '../../../shared/KeptPicture.vue';
import VerdictRing from '../../../shared/VerdictRing.vue';
import CallsResultView from './CallsResultView.vue';
import CallMarks from './CallMarks.vue';
import CallsSeen from './CallsSeen.vue';
import { KIND_WORDS } from '../face-words.ts';
import ChoiceField from '../../../shared/ChoiceField.vue';

/** One face after another, each called pass or fail, with no word of what it is until the end. */
const props = defineProps<{ seriesId: string }>();
const series = shallowRef<OwnSeries | null>(null);
const runId = ref<string | null>(null);
const answered = ref<ReadonlySet<number>>(new Set());
const position = ref(0);
const kind = ref<FaceFault>('scratch');
const marks = ref<{ x: number; y: number; kind: FaceFault }[]>([]);
const shownAt = ref(0);
const now = ref(0);
const loaded = ref(false);
/** How often the picture of this face was asked for again. */
const tries = ref(0);
const busy = ref(false);
const failure = ref<string | null>(null);
const finished = shallowRef<FinishedRun | null>(null);

const left = computed(() => {
  const each = series.value?.secondsEach ?? null;
  if (each === null || !loaded.value) return null;
  return Math.max(0, Math.ceil(each - (now.value - shownAt.value) / 1000));
});
const picture = computed(() => (runId.value === null ? '' : callPictureUrl(runId.value, position.value)));

onMounted(async () => {
  try {
    const own = await request(ROUTES.ownSeries, {});
    series.value = own.find((s) => s.id === props.seriesId) ?? null;
    if (!series.value) {
      failure.value = 'There is no such series for you.';
    } else if (series.value.run?.finished) {
      runId.value = series.value.run.id;
      await finish();
    }
  } catch (error) {
    failure.value = wordsOf(error);
  }
});
useIntervalFn(tick, 250);
useEventListener(window, 'keydown', onKey);

async function begin(): Promise<void> {
  try {
    const run = await request(ROUTES.startRun, { params: { id: props.seriesId }, body: { id: v7() } });
    runId.value = run.id;
    answered.value = new Set(run.answered);
    next();
  } catch (error) {
    failure.value = wordsOf(error);
  }
}
/** The next face without a call; after the last one the end. */
function next(): void {
  const faces = series.value?.faces ?? 0;
  const open = Array.from({ length: faces }, (_, i) => i).find((i) => !answered.value.has(i));
  [marks.value, loaded.value] = [[], false];
  if (open === undefined) void finish();
  else position.value = open;
}
function shown(): void {
  loaded.value = true;
  shownAt.value = performance.now();
  now.value = shownAt.value;
}
function tick(): void {
  now.value = performance.now();
  // What nobody called in time is left without a call.
  if (left.value === 0 && !busy.value && finished.value === null) {
    answered.value = new Set([...answered.value, position.value]);
    next();
  }
}
async function say(said: Call): Promise<void> {
  if (!loaded.value || busy.value || runId.value === null) return;
  busy.value = true;
  failure.value = null;
  const ms = Math.round(performance.now() - shownAt.value);
  try {
    await request(ROUTES.answerCall, {
      params: { id: runId.value },
      body: { position: position.value, said, marks: said === 'fail' ? marks.value.slice(0, 20) : [], ms },
    });
    answered.value = new Set([...answered.value, position.value]);
    next();
  } catch (error) {
    failure.value =
      error instanceof NoServer ? 'The server does not answer. Call this face again.' : wordsOf(error);
  } finally {
    busy.value = false;
  }
}
async function finish(): Promise<void> {
  if (runId.value === null) return;
  try {
    finished.value = await request(ROUTES.finishRun, { params: { id: runId.value } });
  } catch (error) {
    failure.value = wordsOf(error);
  }
}
function mark(event: MouseEvent): void {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
  const x = (event.clientX - box.left) / box.width;
  const y = (event.clientY - box.top) / box.height;
  marks.value = [...marks.value, { x, y, kind: kind.value }];
}
function onKey(event: KeyboardEvent): void {
  if (runId.value === null || finished.value || event.repeat) return;
  if (event.key === 'g') void say('pass');
  if (event.key === 'b') void say('fail');
}
</script>

<template>
  <div class="page">
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <template v-if="series && runId === null">
      <h1>{{ series.label }}</h1>
      <p>
        {{ series.faces }} faces, one after another. Call each one pass or fail by the flat single-mode
        criteria; tap on it where something is wrong. You hear how you did at the end.
        <template v-if="series.secondsEach">You have {{ series.secondsEach }} seconds for each.</template>
      </p>
      <el-button size="large" type="primary" class="big" @click="begin">
        {{ series.run ? 'Go on' : 'Begin' }}
      </el-button>
    </template>
    <template v-else-if="series && finished">
      <h1>{{ series.label }}</h1>
      <CallsResultView :result="finished.result" />
      <p v-if="finished.attemptId" class="soft">
        It waits for an instructor’s signature, and then counts in Inspection.
      </p>
      <p class="soft">
        Framed in yellow: what was found on each face. Your own marks are the white diamonds.
      </p>
      <CallsSeen :run-id="runId!" :calls="finished.calls" />
    </template>
    <template v-else-if="series && runId">
      <div class="row spread">
        <h1>Face {{ position + 1 }} of {{ series.faces }}</h1>
        <span v-if="left !== null" class="figure" role="timer" aria-label="Seconds left"
          >{{ left }}<span class="unit">s</span></span
        >
      </div>
      <div class="frame large" @click="mark">
        <KeptPicture
          :key="`${picture} ${tries}`"
          :src="picture"
          :alt="`Face ${position + 1}`"
          @load="shown"
          @lost="failure = 'The picture of this face does not come. Its time has not begun.'"
        />
        <CallMarks :marks="marks" words />
      </div>
      <el-button v-if="failure && !loaded" size="large" @click="((failure = null), (tries += 1))">
        Ask for the picture again
      </el-button>
      <div class="row bottom">
        <el-button size="large" class="call" :disabled="!loaded || busy" @click="say('pass')">
          <VerdictRing verdict="pass" :size="28" word />
        </el-button>
        <el-button size="large" class="call" :disabled="!loaded || busy" @click="say('fail')">
          <VerdictRing verdict="fail" :size="28" word />
        </el-button>
        <span class="fill" />
        <label class="row">
          <span class="soft">a tap on the picture marks</span>
          <ChoiceField
            v-model="kind"
            bare
            label="What a tap marks"
            :options="FACE_FAULTS.map((k) => ({ value: k, label: KIND_WORDS[k] }))"
          />
        </label>
        <el-button size="large" :disabled="marks.length === 0" @click="marks = marks.slice(0, -1)">
          Undo
        </el-button>
      </div>
    </template>
  </div>
</template>

<style scoped>
.big {
  margin-top: 14px;
  min-width: 160px;
  min-height: 56px;
}
.frame {
  position: relative;
  line-height: 0;
}
.frame.large {
  margin: 8px auto;
  width: fit-content;
  cursor: crosshair;
}
.large img {
  max-width: 100%;
  height: calc(100dvh - 230px);
  background: #000;
}
.call {
  min-width: 150px;
  min-height: 60px;
}
.fill {
  flex: 1;
}
</style>
