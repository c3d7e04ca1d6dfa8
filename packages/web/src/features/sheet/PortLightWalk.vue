<script setup lang="ts">
import { STATION_FAULT_WORDS } from '@clear-mark/words';
import { onScopeDispose, ref, watch } from 'vue';
import type { LiveInstrument } from '../../instruments/instruments.model.ts';
import { useClaim } from '../../instruments/use-claim.ts';
import { useInstruments } from '../../instruments/use-instruments.ts';

/** Lets a port light walk the ports: it lights one after the other and tells where each comes out. */
const props = defineProps<{ live: LiveInstrument; ports: number; attemptId: string }>();
const emit = defineEmits<{ far: [far: number[]] }>();
const instruments = useInstruments();
const claim = useClaim(props.attemptId);
const at = ref(0);
const failure = ref<string | null>(null);
const WAIT_MS = 4000;
let stopped = false;
onScopeDispose(() => (stopped = true));

/** The far port once the instrument says that this near one is lit. */
function lit(near: number): Promise<number> {
  return new Promise((resolve, reject) => {
    const timer = setTimeout(() => (stop(), reject(new Error(STATION_FAULT_WORDS.silent))), WAIT_MS);
    const stop = watch(
      () => props.live.shows,
      (shows) => {
        if (shows?.kind !== 'ports' || shows.near !== near) return;
        clearTimeout(timer);
        queueMicrotask(() => stop());
        resolve(shows.far);
      },
      { immediate: true },
    );
  });
}
async function walk(): Promise<void> {
  failure.value = null;
  const { thingId, label } = props.live.instrument;
  if (!(await claim.take(thingId))) {
    failure.value = claim.words.value;
    return;
  }
  const far: number[] = [];
  try {
    for (let near = 1; near <= props.ports && !stopped; near++) {
      at.value = near;
      const refused = await instruments.order(thingId, { order: 'light', port: near });
      if (refused) throw new Error(refused);
      far.push(await lit(near));
    }
    if (far.length === props.ports) emit('far', far);
  } catch (error) {
    failure.value = `${label}: ${(error as Error).message} Nothing was entered.`;
  }
  at.value = 0;
  await instruments.order(thingId, { order: 'light', port: 0 });
  claim.drop();
}
</script>

<template>
  <div>
    <button class="act" type="button" :disabled="at > 0 || live.state !== 'ready'" @click="walk">
      {{ at > 0 ? `Port ${at} of ${ports}` : `Walk by ${live.instrument.label}` }}
    </button>
    <p v-if="live.state === 'failed'" class="small soft">
      {{ live.instrument.label }}: {{ STATION_FAULT_WORDS[live.fault ?? 'closed'] }}
    </p>
    <p v-if="failure" class="say" role="alert">{{ failure }}</p>
  </div>
</template>

<style scoped>
.say {
  border-left: 4px solid var(--ink);
  background: var(--sunk);
  padding: 4px 10px;
  max-width: 300px;
}
</style>
