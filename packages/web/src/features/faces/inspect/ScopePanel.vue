<script setup lang="ts">
import { FACE_STATES, type FaceState } from '@clear-mark/sim';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { request, ROUTES, wordsOf } from '../../../api/client.ts';
import type { StandInPicture } from '../engine/face-orders.ts';
import { useStandIn } from './use-stand-in.ts';
import ChoiceField from '../../../shared/ChoiceField.vue';

/** The simulated microscope: an end of the chosen make is put under it, cleaned and looked at again. */
const emit = defineEmits<{ taken: [picture: StandInPicture, name: string, again: boolean]; close: [] }>();
const standIn = useStandIn();
const LABELS: Readonly<Record<FaceState, string>> = {
  clean: 'well made and clean',
  near_limit: 'near a limit',
  dirty: 'carelessly cleaned',
  scratched: 'scratched',
  chipped: 'chipped at the edge',
  cracked: 'cracked',
  fractured: 'broken under the surface',
  mixed: 'all sorts',
};
const state = ref<FaceState | 'bench'>('dirty');
const failure = ref<string | null>(null);
const kind = ref<'single_mode' | 'multimode' | 'row'>('single_mode');
const seed = ref(0);
const cleaned = ref(0);
const shot = ref(0);
const busy = ref(false);

/** What a clean leaves of what is loose. */
const LEAVES = 0.2;
const BENCH = 'bench' as const;
const bench = shallowRef<{ dirt: { near: number } } | null>(null);
const states = computed((): { value: FaceState | 'bench'; label: string }[] => [
  ...FACE_STATES.map((s) => ({ value: s, label: LABELS[s] })),
  ...(bench.value ? [{ value: BENCH, label: 'the end on the simulated bench' } as const] : []),
]);
onMounted(async () => {
  // Real use has no simulated bench.
  bench.value = await pieceOfBench().catch(() => null);
});
const pieceOfBench = async (): Promise<{ dirt: { near: number } }> =>
  ((await request(ROUTES.standInPiece, {})) as { piece: { dirt: { near: number } } }).piece;

async function look(again: boolean): Promise<void> {
  busy.value = true;
  try {
    if (again) shot.value += 1;
    else [seed.value, cleaned.value, shot.value] = [Math.floor(Math.random() * 1e6), 0, 0];
    const onBench = state.value === BENCH;
    if (onBench) bench.value = await pieceOfBench();
    const picture = await standIn.take({
      seed: onBench ? BENCH_SEED : seed.value,
      shot: shot.value,
      kind: kind.value,
      height: 720,
      state: onBench ? 'dirty' : (state.value as FaceState),
      loose: onBench ? (bench.value?.dirt.near ?? 0) : LEAVES ** cleaned.value,
    });
    const what = onBench ? 'End on the bench' : `${kind.value === 'row' ? 'Row' : 'End'} ${seed.value}`;
    emit('taken', picture, `${what}${cleanedWords()}`, again);
  } catch (error) {
    failure.value = wordsOf(error);
  } finally {
    busy.value = false;
  }
}
/** The end that the other simulated instruments see as well: its loss falls when it is cleaned here. */
const BENCH_SEED = 77;
const cleanedWords = (): string =>
  cleaned.value === 0 ? '' : `, cleaned ${['once', 'twice'][cleaned.value - 1] ?? `${cleaned.value} times`}`;
async function clean(): Promise<void> {
  failure.value = null;
  cleaned.value += 1;
  try {
    if (state.value === BENCH) await request(ROUTES.standInAct, { body: { act: 'clean', end: 'near' } });
    await look(true);
  } catch (error) {
    failure.value = wordsOf(error);
  }
}
</script>

<template>
  <section class="row scope" aria-label="Simulated microscope">
    <ChoiceField
      v-model="kind"
      bare
      label="Fiber"
      :options="[
        { value: 'single_mode', label: 'Single-mode' },
        { value: 'multimode', label: 'Multimode' },
        { value: 'row', label: 'Row of six' },
      ]"
    />
    <ChoiceField v-model="state" bare label="State of the end" :options="states" />
    <el-button size="large" type="primary" :disabled="busy" @click="look(false)">Next end</el-button>
    <el-button
      size="large"
      :disabled="busy || (seed === 0 && state !== BENCH) || kind === 'row'"
      @click="clean"
    >
      Clean it, look again
    </el-button>
    <el-button size="large" text @click="emit('close')">Close</el-button>
    <span v-if="failure" role="alert">{{ failure }}</span>
    <span v-if="busy" class="soft" role="status">Focusing</span>
  </section>
</template>
