<script setup lang="ts">
import { FACE_STATES, type FaceState } from '@clear-mark/sim';
import { ref } from 'vue';
import type { StandInPicture } from './face-orders.ts';
import { useStandIn } from './use-stand-in.ts';

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
const state = ref<FaceState>('dirty');
const kind = ref<'single_mode' | 'multimode' | 'row'>('single_mode');
const seed = ref(0);
const cleaned = ref(0);
const shot = ref(0);
const busy = ref(false);

async function look(again: boolean): Promise<void> {
  busy.value = true;
  if (again) shot.value += 1;
  else [seed.value, cleaned.value, shot.value] = [Math.floor(Math.random() * 1e6), 0, 0];
  const picture = await standIn.take({
    ...{ seed: seed.value, state: state.value, cleaned: cleaned.value, shot: shot.value },
    ...{ kind: kind.value, height: 720 },
  });
  busy.value = false;
  const what = kind.value === 'row' ? 'Row' : 'End';
  emit('taken', picture, `${what} ${seed.value}${cleanedWords()}`, again);
}
const cleanedWords = (): string =>
  cleaned.value === 0 ? '' : `, cleaned ${['once', 'twice'][cleaned.value - 1] ?? `${cleaned.value} times`}`;
function clean(): void {
  cleaned.value += 1;
  void look(true);
}
defineExpose({ look: () => look(false) });
</script>

<template>
  <section class="row scope" aria-label="Simulated microscope">
    <select v-model="kind" class="act" aria-label="Fiber">
      <option value="single_mode">Single-mode</option>
      <option value="multimode">Multimode</option>
      <option value="row">Row of six</option>
    </select>
    <select v-model="state" class="act" aria-label="State of the end">
      <option v-for="s in FACE_STATES" :key="s" :value="s">{{ LABELS[s] }}</option>
    </select>
    <button class="act next" type="button" :disabled="busy" @click="look(false)">Next end</button>
    <button class="act" type="button" :disabled="busy || seed === 0 || kind === 'row'" @click="clean">
      Clean it, look again
    </button>
    <button class="act quiet" type="button" @click="emit('close')">Close</button>
    <span v-if="busy" class="soft" role="status">Focusing</span>
  </section>
</template>
