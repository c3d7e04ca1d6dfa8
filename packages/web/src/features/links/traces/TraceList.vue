<script setup lang="ts">
import type { TraceRow } from '@clear-mark/contract';
import { DIRECTION_WORDS } from '@clear-mark/words';
import { computed, ref } from 'vue';
import { momentWords } from '../../../shared/time-words.ts';

/** The traces that are kept; several chosen ones are laid over each other. */
const props = defineProps<{ rows: readonly TraceRow[] }>();
/** A list that stays the same, or the table forgets what is chosen. */
const list = computed(() => [...props.rows]);
const emit = defineEmits<{ open: [ids: string[]] }>();
const chosen = ref<readonly TraceRow[]>([]);
const MOST = 5;
const SOURCES = { file: 'file', instrument: 'taken here', stand_in: 'simulated' } as const;
const whatFor = (r: TraceRow): string =>
  [
    r.linkLabel ?? '',
    r.fiber === null ? '' : `fiber ${r.fiber}`,
    r.direction === null ? '' : DIRECTION_WORDS[r.direction],
  ]
    .filter((x) => x !== '')
    .join(', ');
</script>

<template>
  <section class="section" aria-label="Traces">
    <div class="row spread">
      <h2>Traces</h2>
      <el-button
        v-if="chosen.length > 1"
        size="large"
        type="primary"
        :disabled="chosen.length > MOST"
        @click="
          emit(
            'open',
            chosen.map((r) => r.id),
          )
        "
      >
        {{
          chosen.length > MOST ? `At most ${MOST} over each other` : `Lay ${chosen.length} over each other`
        }}
      </el-button>
    </div>
    <el-table
      :data="list"
      row-key="id"
      size="large"
      max-height="460"
      empty-text="No trace is kept yet. Open a file, or take one with an OTDR."
      data-test="traces"
      @selection-change="(rows: TraceRow[]) => (chosen = rows)"
      @row-click="(row: TraceRow) => emit('open', [row.id])"
    >
      <el-table-column type="selection" width="52" />
      <el-table-column label="Trace" min-width="180">
        <template #default="{ row }: { row: TraceRow }">
          <el-button link size="large" @click.stop="emit('open', [row.id])"><b>{{ row.label }}</b></el-button>
        </template>
      </el-table-column>
      <el-table-column label="Of" min-width="190">
        <template #default="{ row }: { row: TraceRow }">{{ whatFor(row) }}</template>
      </el-table-column>
      <el-table-column label="Light" width="170">
        <template #default="{ row }: { row: TraceRow }"
          >{{ Math.round(row.wavelengthNm) }} nm, {{ row.pulseNs }} ns</template
        >
      </el-table-column>
      <el-table-column label="With" min-width="150">
        <template #default="{ row }: { row: TraceRow }">{{
          row.traineeName ? `${row.traineeName}, ${row.pieceLabel}` : ''
        }}</template>
      </el-table-column>
      <el-table-column label="Kept" width="230">
        <template #default="{ row }: { row: TraceRow }"
          >{{ momentWords(row.takenAt, 'short') }}, {{ SOURCES[row.source] }}</template
        >
      </el-table-column>
    </el-table>
  </section>
</template>
