<script setup lang="ts">
import type { AttemptOrder, AttemptRow } from '@clear-mark/contract';
import type { Skill } from '@clear-mark/core';
import { ElButton, type Column, TableV2SortOrder } from 'element-plus';
import { computed, h, type VNode } from 'vue';
import VerdictRing from '../../shared/VerdictRing.vue';
import { columnsShown, lossText, type RecordLine, startedText } from './records.model.ts';

/** The list of records: only the lines that are seen are there, so that a long course scrolls like a short one. */
const props = defineProps<{
  lines: readonly RecordLine[];
  seen: readonly string[];
  ownSkills: readonly Skill[];
  sort: AttemptOrder;
  up: boolean;
  chosen: ReadonlyMap<string, AttemptRow>;
}>();
const emit = defineEmits<{
  look: [first: number, last: number];
  sort: [column: AttemptOrder];
  open: [row: AttemptRow];
  choose: [row: AttemptRow];
}>();
const LINE_PX = 44;

const cells: Readonly<Record<string, (row: AttemptRow) => VNode | string>> = {
  trainee: (row) =>
    h(ElButton, { class: 'open', text: true, onClick: () => emit('open', row) }, () => row.traineeName),
  piece: (row) => row.pieceLabel,
  verdict: (row) =>
    row.state === 'signed' ? h(VerdictRing, { verdict: row.verdict, word: true, size: 22 }) : 'open',
  method: (row) => row.methodTitle,
  started: (row) => h('span', { class: 'when' }, startedText(row)),
  loss: (row) =>
    h(
      'span',
      row.losses.map((l) => [
        h('span', { class: 'small soft' }, `${l.wavelengthNm} `),
        `${lossText(l.lossDb)}  `,
      ]),
    ),
};
const skillCell = (row: AttemptRow, skill: Skill): VNode | string =>
  row.skills[skill] ? h(VerdictRing, { verdict: row.skills[skill], share: 0, size: 22 }) : '';

const columns = computed((): Column<RecordLine>[] => [
  {
    key: 'choose',
    width: 48,
    align: 'center',
    cellRenderer: ({ rowData: { row } }: { rowData: RecordLine }) =>
      row
        ? // Sixteen lines come into view at once: plain boxes save a fifth of what that takes.
          h('input', {
            type: 'checkbox',
            class: 'box',
            checked: props.chosen.has(row.attemptId),
            'aria-label': `Choose ${row.traineeName}, ${row.pieceLabel}`,
            onChange: () => emit('choose', row),
          })
        : h('span'),
  },
  ...columnsShown(props.seen, props.ownSkills).map((c) => ({
    key: c.key,
    title: c.label,
    width: c.width,
    flexGrow: c.key === 'method' ? 1 : 0,
    sortable: c.order !== undefined,
    cellRenderer: ({ rowData: { row } }: { rowData: RecordLine }) => {
      if (!row) return h('span', { class: 'soft' }, c.key === 'trainee' ? 'loading' : '');
      const made = cells[c.key]?.(row) ?? skillCell(row, c.key as Skill);
      return typeof made === 'string' ? h('span', made) : made;
    },
  })),
]);
const sortedBy = computed(() => ({
  key: props.sort,
  order: props.up ? TableV2SortOrder.ASC : TableV2SortOrder.DESC,
}));
</script>

<template>
  <el-auto-resizer>
    <template #default="{ height, width }">
      <el-table-v2
        :columns="columns"
        :data="lines as RecordLine[]"
        row-key="id"
        :width="width"
        :height="height"
        :row-height="LINE_PX"
        :header-height="LINE_PX"
        :sort-by="sortedBy"
        data-test="records"
        @column-sort="({ key }: { key: PropertyKey }) => emit('sort', key as AttemptOrder)"
        @rows-rendered="
          ({ rowVisibleStart, rowVisibleEnd }: { rowVisibleStart: number; rowVisibleEnd: number }) =>
            emit('look', rowVisibleStart, rowVisibleEnd)
        "
      />
    </template>
  </el-auto-resizer>
</template>

<style scoped>
:deep(.el-button.is-text.open) {
  min-height: var(--tap);
  padding: 0;
  border: 0;
  background: none;
  text-align: left;
  font-weight: 700;
  cursor: pointer;
  text-decoration: underline;
  text-decoration-color: var(--hair-strong);
  text-underline-offset: 3px;
}
/* A line has its size from the table: nothing in it moves what is outside. */
:deep(.el-table-v2__row) {
  contain: strict;
}
:deep(.box) {
  flex: none;
  width: 22px;
  height: 22px;
  margin: 0;
  accent-color: var(--accent);
  cursor: pointer;
}
:deep(.el-table-v2__header-cell) {
  background: var(--paper);
  color: var(--ink-soft);
  font-weight: 400;
}
:deep(.el-table-v2__row-cell) {
  overflow: hidden;
  white-space: nowrap;
}
</style>
