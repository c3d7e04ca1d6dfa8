<script setup lang="ts">
import type { ZoneRule } from '@clear-mark/core';
import { zoneRuleWords } from '@clear-mark/words';
import { RULE_KINDS, type RuleKind } from './zone-rules.ts';

/** What each zone of an end face allows, a zone a row; the slot is for a rule that is being edited. */
defineProps<{ zones: readonly ZoneRule[] }>();
defineSlots<{ rule?(of: { zone: ZoneRule; index: number; kind: RuleKind }): unknown }>();
interface Line {
  row: ZoneRule;
  $index: number;
}
</script>

<template>
  <el-table :data="[...zones]" row-key="zone" data-test="zones">
    <el-table-column label="Zone" width="80">
      <template #default="{ row: z }: Line"><b class="zone">{{ z.zone }}</b></template>
    </el-table-column>
    <el-table-column label="Diameter" width="150">
      <template #default="{ row: z }: Line">{{ z.fromUm }} to {{ z.toUm }} µm</template>
    </el-table-column>
    <el-table-column
      v-for="k in RULE_KINDS"
      :key="k.key"
      :label="k.label"
      :min-width="$slots.rule ? 320 : 200"
    >
      <template #default="{ row: z, $index }: Line">
        <slot name="rule" :zone="z" :index="$index" :kind="k.key">{{ zoneRuleWords(z[k.key]) }}</slot>
      </template>
    </el-table-column>
  </el-table>
</template>

<style scoped>
.zone {
  font-size: 1.125rem;
}
</style>
