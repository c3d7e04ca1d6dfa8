<script setup lang="ts">
import type { InstrumentReading } from '@clear-mark/contract';
import { INSTRUMENT_WORDS, POWER_FAULT_WORDS, STATION_FAULT_WORDS, UNIT_WORDS } from '@clear-mark/words';
import { computed } from 'vue';
import {
  identityWords,
  type LiveInstrument,
  overdue,
  steady,
} from '../../../instruments/instruments.model.ts';
import { useInstruments } from '../../../instruments/use-instruments.ts';
import { useClassroom } from '../../../classroom/use-classroom.ts';
import StandInBench from './StandInBench.vue';

/** Every instrument of the class that answers over the network, with what it shows now. */
const props = defineProps<{ classId: string }>();
const instruments = useInstruments();
const classroom = useClassroom();
instruments.follow(props.classId);
const list = computed(() =>
  [...instruments.all].sort((a, b) => a.instrument.label.localeCompare(b.instrument.label)),
);
const day = computed(() => classroom.today());

function shown(reading: InstrumentReading | null): { figure: string; unit: string; more: string } | null {
  if (!reading) return null;
  switch (reading.kind) {
    case 'power':
      if (reading.state === 'reading') {
        const figure =
          reading.unit === 'dBm' || reading.unit === 'dB' ? Number(reading.text).toFixed(2) : reading.text;
        return { figure, unit: UNIT_WORDS[reading.unit], more: `at ${reading.wavelengthNm} nm` };
      }
      if (reading.state === 'no_light')
        return { figure: 'no light', unit: '', more: `at ${reading.wavelengthNm} nm` };
      return { figure: 'no reading', unit: '', more: POWER_FAULT_WORDS[reading.why] };
    case 'splice':
      return {
        figure: reading.estimateDb === null ? '–' : reading.estimateDb.toFixed(2),
        unit: 'dB estimated',
        more: `left ${reading.leftDeg?.toFixed(1) ?? '–'}°, right ${reading.rightDeg?.toFixed(1) ?? '–'}°, ${reading.proof === null ? 'not fused' : reading.proof ? 'proof held' : 'broke in proof'}`,
      };
    case 'ports':
      return {
        figure: reading.near === 0 ? 'dark' : `${reading.near} → ${reading.far === 0 ? 'none' : reading.far}`,
        unit: '',
        more: 'near port, far port',
      };
    case 'source':
      return { figure: reading.on ? 'on' : 'off', unit: '', more: `${reading.wavelengthNm} nm` };
    case 'otdr':
      return {
        figure: `${reading.pulseNs}`,
        unit: 'ns',
        more: `${reading.wavelengthNm} nm, range ${Math.round(reading.rangeM)} m, ${reading.averages} averages`,
      };
    default: {
      const never: never = reading;
      return never;
    }
  }
}
const stateOf = (l: LiveInstrument): string =>
  l.state === 'failed'
    ? STATION_FAULT_WORDS[l.fault ?? 'closed']
    : l.state === 'connecting'
      ? 'connecting'
      : l.identity
        ? identityWords(l.identity)
        : 'there';
</script>

<template>
  <p v-if="list.length === 0" class="notice">
    No instrument of this class is connected.
    <RouterLink :to="{ name: 'setup', params: { classId }, query: { view: 'equipment' } }"
      >Enter its address in Class.</RouterLink
    >
    Typed readings need none.
  </p>
  <ul class="instruments">
    <li v-for="l in list" :key="l.instrument.thingId" :class="l.state" :data-instrument="l.instrument.label">
      <h2>{{ l.instrument.label }}</h2>
      <p class="small soft">{{ INSTRUMENT_WORDS[l.instrument.kind] }} · {{ stateOf(l) }}</p>
      <p v-if="shown(l.shows)" class="shows">
        <span class="figure">{{ shown(l.shows)!.figure }}</span>
        <span class="unit">{{ shown(l.shows)!.unit }}</span>
        <span class="more">{{ shown(l.shows)!.more }}</span>
      </p>
      <p v-else class="shows soft">nothing shown</p>
      <p v-if="l.instrument.kind === 'power_meter' && l.levels.length > 0" class="small">
        {{ steady(l) ? 'Settled' : 'Settling: wait before it is taken' }}
      </p>
      <p v-if="l.claim" class="small">Taken by {{ l.claim.personName }} for {{ l.claim.pieceLabel }}</p>
      <p class="small" :class="{ warn: overdue(l.instrument, day) }">
        {{ overdue(l.instrument, day) ? 'Calibration ran out' : 'Calibration good until' }}
        {{ l.instrument.calibrationDueOn ?? 'not entered' }}
      </p>
    </li>
  </ul>
  <StandInBench />
</template>

<style scoped>
.instruments {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(280px, 1fr));
  gap: 18px;
}
li {
  border-top: 3px solid var(--hair-strong);
  padding-top: 10px;
  display: grid;
  gap: 4px;
  align-content: start;
}
li.ready {
  border-color: var(--accent);
}
li.failed {
  border-top-style: dashed;
  border-color: var(--ink);
}
.shows {
  min-height: 68px;
}
.shows .figure {
  font-size: 2.25rem;
}
.more {
  display: block;
}
.warn {
  font-weight: 700;
  border-left: 4px solid var(--ink);
  padding-left: 8px;
}
</style>
