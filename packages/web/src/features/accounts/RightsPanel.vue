<script setup lang="ts">
import { RIGHTS, type Right, ROLES } from '@clear-mark/contract';
import { REACH_WORDS } from '@clear-mark/words';
import { request, ROUTES } from '../../api/client.ts';
import { useAct, useReply } from '../../api/queries.ts';

/** Who may do what: the table that the server goes by. */
const { found: rule, again } = useReply(ROUTES.secondFactorRequired, () => ({}));
const { failure, act } = useAct();
async function ask(required: boolean): Promise<void> {
  await act(() => request(ROUTES.requireSecondFactor, { body: { required } }));
  await again();
}
</script>

<template>
  <section class="section">
    <el-switch
      :model-value="rule?.required ?? false"
      size="large"
      active-text="Leads need a second factor to sign in"
      aria-label="Leads need a second factor to sign in"
      @update:model-value="(on: string | number | boolean) => ask(Boolean(on))"
    />
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <el-table :data="RIGHTS as Right[]" row-key="id" class="rights" data-test="rights">
      <el-table-column prop="act" label="What" min-width="420" />
      <el-table-column v-for="role in ROLES" :key="role" :label="role" width="170">
        <template #default="{ row }: { row: Right }">
          <component
            :is="row.reach[role] === 'no' ? 'span' : 'b'"
            :class="{ soft: row.reach[role] === 'no' }"
            >{{ REACH_WORDS[row.reach[role]] }}</component
          >
        </template>
      </el-table-column>
    </el-table>
  </section>
</template>

<style scoped>
.rights {
  margin-top: 12px;
}
</style>
