<script setup lang="ts">
import { AUDIT_CSV_PATH, AUDIT_KINDS, type AuditEvent, type AuditKind } from '@clear-mark/contract';
import { auditWords } from '@clear-mark/words';
import { refDebounced } from '@vueuse/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { pathOf, ROUTES } from '../../api/client.ts';
import { askOnce, useAct, useReply } from '../../api/queries.ts';
import ChoiceField from '../../shared/ChoiceField.vue';
import { momentWords } from '../../shared/time-words.ts';

/** What was done to accounts, classes, methods and data, by whom: never changed, searched, taken out as CSV. */
const kind = ref<AuditKind | ''>('');
const text = ref('');
const words = refDebounced(text, 250);
const filter = computed(() => ({
  ...(kind.value === '' ? {} : { kind: kind.value }),
  ...(words.value.trim() === '' ? {} : { text: words.value.trim() }),
}));
const { found, failure: unread } = useReply(ROUTES.audit, () => ({ query: filter.value }));
const { failure: notRead, busy, act } = useAct();
const failure = computed(() => unread.value ?? notRead.value);
/** What was asked for beyond the first page. */
const further = shallowRef<readonly AuditEvent[]>([]);
const isMore = ref(false);
watch(
  found,
  (page) => {
    further.value = [];
    isMore.value = page?.more ?? false;
  },
  { immediate: true },
);
const events = computed(() => [...(found.value?.events ?? []), ...further.value]);
const more = (): Promise<boolean> =>
  act(async () => {
    const query = { ...filter.value, before: String(events.value.at(-1)!.seq) };
    const page = await askOnce(ROUTES.audit, { query });
    further.value = [...further.value, ...page.events];
    isMore.value = page.more;
  });
const kinds = AUDIT_KINDS.map((value) => ({ value, label: auditWords(value) })).sort((a, b) =>
  a.label.localeCompare(b.label),
);
/** Whom it was done to, where that is somebody else. */
const of = ({ person, by }: AuditEvent): string => (person !== null && person !== by ? person : '');
</script>

<template>
  <section class="section">
    <div class="row filter">
      <ChoiceField v-model="kind" label="What" none="everything" :options="kinds" />
      <div class="field">
        <label class="soft" for="trail-words">Name or word</label>
        <el-input id="trail-words" v-model="text" size="large" clearable />
      </div>
      <a class="act" :href="pathOf(AUDIT_CSV_PATH, {}, filter)" download>Take out as CSV</a>
    </div>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <el-table :data="events" row-key="seq" data-test="trail" empty-text="Nothing of that kind">
      <el-table-column label="When" width="220">
        <template #default="{ row }: { row: AuditEvent }">{{ momentWords(row.at, 'full') }}</template>
      </el-table-column>
      <el-table-column label="Who" min-width="160">
        <template #default="{ row }: { row: AuditEvent }">{{ row.by ?? 'nobody signed in' }}</template>
      </el-table-column>
      <el-table-column label="Did what" min-width="220">
        <template #default="{ row }: { row: AuditEvent }">{{ auditWords(row.kind) }}</template>
      </el-table-column>
      <el-table-column label="To whom" min-width="150">
        <template #default="{ row }: { row: AuditEvent }">{{ of(row) }}</template>
      </el-table-column>
      <el-table-column label="In class" min-width="150" prop="className" />
      <el-table-column label="More" min-width="220" prop="detail" />
    </el-table>
    <el-button v-if="isMore" size="large" class="more" :loading="busy" @click="more">Earlier ones</el-button>
  </section>
</template>

<style scoped>
.filter {
  align-items: flex-end;
  flex-wrap: wrap;
  margin-bottom: 12px;
}
.more {
  margin-top: 10px;
}
</style>
