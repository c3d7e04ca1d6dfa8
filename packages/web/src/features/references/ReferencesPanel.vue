<script setup lang="ts">
import type { ClassReference } from '@clear-mark/contract';
import { LOSS_REFERENCE_RULES } from '@clear-mark/methods/loss';
import { LIGHT_WORDS, REFERENCE_WORDS, VOID_WORDS } from '@clear-mark/words';
import { useIntervalFn, useNow } from '@vueuse/core';
import { computed, ref } from 'vue';
import { useClassroom } from '../../classroom/use-classroom.ts';
import { timeOfDay } from '../../shared/time-words.ts';
import RereadDialog from './RereadDialog.vue';
import { driftOf, type ReferenceState, stateOf } from './references.model.ts';

/** The references of the day: what each was set to, whether it still holds, and where it is read again. */
defineProps<{ classId: string }>();
const classroom = useClassroom();
const now = useNow({ scheduler: (tick) => useIntervalFn(tick, 30_000) });
const chosen = ref<readonly ClassReference[] | null>(null);

const rows = computed(() =>
  classroom.references.map((reference) => ({
    ...reference,
    at: timeOfDay(reference.setAt),
    drift: driftOf(reference),
    state: stateOf(reference, now.value.getTime(), LOSS_REFERENCE_RULES),
  })),
);
type Row = (typeof rows.value)[number];
const open = computed(() => rows.value.filter((r) => r.state === 'not_read_again'));
const STATE_WORDS: Readonly<Record<ReferenceState, string>> = {
  void: 'void',
  drifted: 'moved too far',
  old: 'too old',
  steady: 'holds',
  not_read_again: 'to be read again',
};
const stateWords = (row: Row): string =>
  row.state === 'void' && row.voidReason ? `void: ${VOID_WORDS[row.voidReason]}` : STATE_WORDS[row.state];
const driftText = (drift: number | null): string =>
  drift === null ? '' : `${drift > 0 ? '+' : ''}${drift.toFixed(2)}`;
</script>

<template>
  <section class="section">
    <div class="row spread">
      <h2>References of the day</h2>
      <el-button
        v-if="open.length > 0"
        type="primary"
        size="large"
        data-test="reread-all"
        @click="chosen = open"
      >
        {{ open.length > 1 ? `Read all ${open.length} again` : 'Read it again' }}
      </el-button>
    </div>
    <p class="soft">
      At the end of a set each reference is read again. It may move by
      {{ LOSS_REFERENCE_RULES.mostDriftDb }} dB and be {{ LOSS_REFERENCE_RULES.mostHours }} hours old;
      further, what was read with it is void.
    </p>
    <el-table
      :data="rows"
      row-key="id"
      size="large"
      :default-sort="{ prop: 'setAt', order: 'descending' }"
      empty-text="No reference was set in the last hours. It is set on the sheet of a loss test."
      data-test="references"
    >
      <el-table-column prop="setAt" label="Set" sortable width="90">
        <template #default="{ row }: { row: Row }">{{ row.at }}</template>
      </el-table-column>
      <el-table-column prop="instrumentLabel" label="Instrument" sortable min-width="120" />
      <el-table-column prop="method" label="By" min-width="180">
        <template #default="{ row }: { row: Row }"
          >{{ REFERENCE_WORDS[row.method] }}<template v-if="row.leg">, leg {{ row.leg }}</template></template
        >
      </el-table-column>
      <el-table-column v-if="rows.some((r) => r.light)" prop="light" label="Light" width="120">
        <template #default="{ row }: { row: Row }">{{ row.light ? LIGHT_WORDS[row.light] : '' }}</template>
      </el-table-column>
      <el-table-column prop="wavelengthNm" label="nm" sortable width="85" align="right" />
      <el-table-column prop="valueDbm" label="dBm" width="85" align="right" />
      <el-table-column label="Again" width="85" align="right">
        <template #default="{ row }: { row: Row }">{{ row.rereadDbm ?? '' }}</template>
      </el-table-column>
      <el-table-column prop="drift" label="Moved" sortable width="110" align="right">
        <template #default="{ row }: { row: Row }">{{ driftText(row.drift) }}</template>
      </el-table-column>
      <el-table-column prop="state" label="State" sortable min-width="160">
        <template #default="{ row }: { row: Row }">
          <b :class="{ soft: row.state === 'steady' }">{{ stateWords(row) }}</b>
        </template>
      </el-table-column>
      <el-table-column width="160" align="right">
        <template #default="{ row }: { row: Row }">
          <el-button v-if="row.state !== 'void'" size="large" @click="chosen = [row]">Read again</el-button>
        </template>
      </el-table-column>
    </el-table>
    <RereadDialog
      v-if="chosen"
      :class-id="classId"
      :references="chosen"
      :most-drift-db="LOSS_REFERENCE_RULES.mostDriftDb"
      @close="chosen = null"
    />
  </section>
</template>
