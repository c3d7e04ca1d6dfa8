<script setup lang="ts">
import { compareSheets, type MethodSheet, outcomesUnder, copySheet } from '@clear-mark/core';
import { VERDICT_WORDS } from '@clear-mark/words';
import { computed, onMounted, shallowRef } from 'vue';
import { useRoute } from 'vue-router';
import { request, ROUTES } from '../../../api/client.ts';
import { useAct } from '../../../api/queries.ts';
import { useClassroom } from '../../../classroom/use-classroom.ts';
import VerdictRing from '../../../shared/VerdictRing.vue';
import { type DifferenceLine, differenceLines } from './differences.model.ts';
import { type SignedOfMethod, signedOfMethod } from './signed-attempts.ts';

/** Two versions of a method: what moved, in words, and what it would have done to the pieces that were signed. */
const props = defineProps<{ classId: string; versionId: string }>();
const MOST_ATTEMPTS = 200;
const route = useRoute();
const classroom = useClassroom();
const { failure, act } = useAct();
const before = shallowRef<MethodSheet | null>(null);
const after = shallowRef<MethodSheet | null>(null);
const isDraft = computed(() => route.query['draft'] !== undefined);
const pieces = shallowRef<SignedOfMethod | null>(null);
const { failure: notTried, busy, act: tryAct } = useAct();

/** A copied method is compared with the one that it came from: its criteria are those of the same name. */
const compared = computed(() => {
  const old = before.value;
  const now = after.value;
  if (!old || !now) return null;
  return { old, now: now.id === old.id ? now : copySheet(now, old.id, now.title) };
});
const lines = computed(() => {
  const pair = compared.value;
  return pair ? differenceLines(compareSheets(pair.old, pair.now), pair.old, pair.now) : [];
});
const policy = computed(() => classroom.detail?.policy);
const outcomes = computed(() =>
  pieces.value && after.value && policy.value
    ? outcomesUnder(pieces.value.signed, after.value, policy.value)
    : null,
);
async function load(): Promise<void> {
  await act(async () => {
    const draftId = route.query['draft'];
    const other = route.query['with'];
    const version = (id: string): Promise<MethodSheet> =>
      request(ROUTES.methodVersion, { params: { id } }).then((v) => v.sheet);
    if (typeof draftId === 'string') {
      const draft = await request(ROUTES.methodDraft, { params: { id: draftId } });
      [before.value, after.value] = [await version(props.versionId), draft.sheet];
    } else {
      const both = await Promise.all([version(props.versionId), version(String(other))]);
      both.sort((a, b) => a.version - b.version);
      [before.value, after.value] = both as [MethodSheet, MethodSheet];
    }
    await classroom.open(props.classId);
  });
}
const tryPieces = (): Promise<boolean> =>
  tryAct(async () => {
    pieces.value = await signedOfMethod(props.classId, before.value!.id, MOST_ATTEMPTS);
  });
onMounted(load);
</script>

<template>
  <div class="page">
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <template v-if="before && after">
      <h1>{{ after.title }}</h1>
      <p class="soft">
        {{ before.title }}, version {{ before.version }}, beside
        {{ isDraft ? `the draft of version ${after.version}` : `version ${after.version}` }}.
      </p>
      <section class="section">
        <h2>What differs</h2>
        <p v-if="lines.length === 0" class="notice">Nothing differs: both are scored by the same.</p>
        <el-table v-else :data="lines" row-key="key" data-test="differences">
          <el-table-column label="Where" min-width="220">
            <template #default="{ row }: { row: DifferenceLine }">{{ row.where }}</template>
          </el-table-column>
          <el-table-column label="What" width="170">
            <template #default="{ row }: { row: DifferenceLine }"><b>{{ row.what }}</b></template>
          </el-table-column>
          <el-table-column :label="`Version ${before.version}`" min-width="260">
            <template #default="{ row }: { row: DifferenceLine }">{{ row.before }}</template>
          </el-table-column>
          <el-table-column :label="isDraft ? 'Draft' : `Version ${after.version}`" min-width="260">
            <template #default="{ row }: { row: DifferenceLine }">{{ row.after }}</template>
          </el-table-column>
        </el-table>
      </section>
      <section class="section">
        <h2>What it would have done</h2>
        <p class="soft">
          The newest {{ MOST_ATTEMPTS }} signed pieces of this class are scored again by the later one.
          Nothing of them is changed.
        </p>
        <p v-if="notTried" class="notice bad" role="alert">{{ notTried }}</p>
        <el-button v-if="!outcomes" size="large" :disabled="busy" :loading="busy" @click="tryPieces">
          Score the signed pieces again
        </el-button>
        <template v-else>
          <p class="result" data-test="outcomes">
            <b>{{ outcomes.attempts }}</b> {{ outcomes.attempts === 1 ? 'piece' : 'pieces' }}:
            <b>{{ outcomes.newlyFailed }}</b> would no longer pass, <b>{{ outcomes.newlyPassed }}</b> would
            pass that did not, {{ outcomes.attempts - outcomes.changes.length - outcomes.notScored }} stay as
            they are<template v-if="outcomes.notScored > 0"
              >, {{ outcomes.notScored }} cannot be scored by it</template
            >.
          </p>
          <el-table
            v-if="outcomes.changes.length > 0"
            :data="[...outcomes.changes].reverse().slice(0, 50)"
            row-key="id"
          >
            <el-table-column label="Trainee" min-width="200">
              <template #default="{ row }">{{ pieces!.heads.get(row.id)?.traineeName }}</template>
            </el-table-column>
            <el-table-column label="Piece" width="140">
              <template #default="{ row }">{{ pieces!.heads.get(row.id)?.pieceLabel }}</template>
            </el-table-column>
            <el-table-column label="Signed as" width="190">
              <template #default="{ row }"
                ><span class="verdict"
                  ><VerdictRing :verdict="row.before" :share="1" :size="22" />
                  {{ VERDICT_WORDS[row.before as keyof typeof VERDICT_WORDS] }}</span
                ></template
              >
            </el-table-column>
            <el-table-column label="Would be" width="190">
              <template #default="{ row }"
                ><span class="verdict"
                  ><VerdictRing :verdict="row.after" :share="1" :size="22" />
                  {{ VERDICT_WORDS[row.after as keyof typeof VERDICT_WORDS] }}</span
                ></template
              >
            </el-table-column>
          </el-table>
        </template>
      </section>
    </template>
  </div>
</template>

<style scoped>
.result {
  font-size: 1.125rem;
}
.verdict {
  display: inline-flex;
  align-items: center;
  gap: 8px;
}
</style>
