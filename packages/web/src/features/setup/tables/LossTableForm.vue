<script setup lang="ts">
import { wavelengthsOfMode } from '@clear-mark/core';
import type { SchoolTableContent } from '@clear-mark/contract';
import { computed } from 'vue';
import AllowanceField from '../../../shared/AllowanceField.vue';

type Table = Extract<SchoolTableContent, { kind: 'loss' }>['content'];
/** What each part of a link may lose, with the source of each figure. */
const props = defineProps<{ table: Table }>();
const emit = defineEmits<{ change: [table: Table] }>();
const wavelengths = computed(() => wavelengthsOfMode(props.table.fiber));
const set = (more: Partial<Table>): void => emit('change', { ...props.table, ...more });
</script>

<template>
  <p class="soft">
    For {{ table.fiber === 'single_mode' ? 'single-mode' : 'multimode' }} links. What good work loses and the
    least loss of the fiber stay as shipped.
  </p>
  <AllowanceField
    label="A connection may lose"
    :value="table.connectionDb"
    @change="(connectionDb) => set({ connectionDb })"
  />
  <AllowanceField
    label="A splice may lose"
    :value="table.spliceDb"
    @change="(spliceDb) => set({ spliceDb })"
  />
  <AllowanceField
    v-for="nm in wavelengths"
    :key="nm"
    :label="`The fiber may lose at ${nm} nm`"
    unit="dB/km"
    :value="table.fiberDbPerKm[nm]!"
    @change="(db) => set({ fiberDbPerKm: { ...table.fiberDbPerKm, [nm]: db } })"
  />
</template>
