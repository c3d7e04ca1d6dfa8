<script setup lang="ts">
import type { Cause } from '@clear-mark/core';
import type { SuggestionCount } from '@clear-mark/contract';
import { CAUSE_WORDS } from '@clear-mark/words';
import { ROUTES } from '../../../api/client.ts';
import { useReply } from '../../../api/queries.ts';

/** How the suggested causes fared: what instructors charged, and what they put away as wrong. */
const props = defineProps<{ classId: string }>();
const { found: counts, failure } = useReply(ROUTES.suggestions, () => ({ params: { id: props.classId } }));
</script>

<template>
  <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
  <p v-else-if="counts?.length === 0" class="soft">
    No suggestion was charged or dismissed yet. Both happen on a sheet, under Likely causes.
  </p>
  <el-table v-else-if="counts" :data="counts as SuggestionCount[]" row-key="cause">
    <el-table-column prop="cause" label="Suggested cause" min-width="260">
      <template #default="{ row }: { row: SuggestionCount }">{{
        CAUSE_WORDS[row.cause as Cause] ?? row.cause
      }}</template>
    </el-table-column>
    <el-table-column prop="charged" label="Charged" sortable align="right" width="140" />
    <el-table-column prop="dismissed" label="Dismissed as wrong" sortable align="right" width="200" />
  </el-table>
</template>
