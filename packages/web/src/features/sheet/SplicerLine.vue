<script setup lang="ts">
import type { EntryValue } from '@clear-mark/core';
import { STATION_FAULT_WORDS } from '@clear-mark/words';
import { computed } from 'vue';
import { isFree, type LiveInstrument, overdue } from '../../instruments/instruments.model.ts';
import { useClaim } from '../../instruments/use-claim.ts';
import { useSession } from '../../session/session.ts';
import { useClassroom } from '../../classroom/use-classroom.ts';
import { spliceValues } from './splicer.model.ts';

/** The splicer beside its sheet: what it reports now, taken into the sheet in one tap. */
const props = defineProps<{ live: LiveInstrument; attemptId: string }>();
const emit = defineEmits<{ take: [values: readonly { name: string; value: EntryValue }[]] }>();
const session = useSession();
const claim = useClaim(props.attemptId);
const classroom = useClassroom();
const day = computed(() => classroom.today());
const shows = computed(() => (props.live.shows?.kind === 'splice' ? props.live.shows : null));
const mine = computed(() => claim.held.value !== null && isFree(props.live, session.deviceId));
const one = (x: number | null): string => (x === null ? '–' : x.toFixed(1));

/** The first tap claims the splicer for this sheet, so that two sheets never take one splice. */
async function take(takeOver: boolean): Promise<void> {
  const thingId = props.live.instrument.thingId;
  if (!mine.value && !(await claim.take(thingId, takeOver))) return;
  if (shows.value) emit('take', spliceValues(props.live, shows.value));
}
</script>

<template>
  <div class="line" data-test="splicer">
    <b>{{ live.instrument.label }}</b>
    <span v-if="live.state !== 'ready'">{{
      live.state === 'failed' ? STATION_FAULT_WORDS[live.fault ?? 'closed'] : 'connecting'
    }}</span>
    <span v-else-if="shows">
      left <b>{{ one(shows.leftDeg) }}°</b>, right <b>{{ one(shows.rightDeg) }}°</b>, estimate
      <b>{{ shows.estimateDb === null ? '–' : shows.estimateDb.toFixed(2) }}</b> <span class="unit">dB</span>,
      {{ shows.proof === null ? 'not fused yet' : shows.proof ? 'proof held' : 'broke in proof' }}
    </span>
    <span class="row">
      <button class="act" type="button" :disabled="!shows" @click="take(false)">Take what it shows</button>
      <button v-if="claim.inUse.value" class="act" type="button" @click="take(true)">Take it over</button>
    </span>
    <p v-if="claim.words.value && !mine" class="say" role="alert">{{ claim.words.value }}</p>
    <p v-if="overdue(live.instrument, day)" class="say">
      Its calibration ran out on {{ live.instrument.calibrationDueOn }}.
    </p>
  </div>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) auto;
  gap: 4px 14px;
  align-items: center;
  background: var(--sunk);
  padding: 6px 20px;
  border-bottom: 1px solid var(--hair);
}
.say {
  grid-column: 1 / -1;
  border-left: 4px solid var(--ink);
  padding-left: 8px;
}
@media (max-width: 800px) {
  .line {
    grid-template-columns: 1fr;
  }
}
</style>
