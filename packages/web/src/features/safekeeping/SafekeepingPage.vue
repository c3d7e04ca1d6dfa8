<script setup lang="ts">
import { findingWords } from '@clear-mark/words';
import { computed } from 'vue';
import { request, ROUTES } from '../../api/client.ts';
import { useAct, useReply } from '../../api/queries.ts';
import { useSession } from '../../session/session.ts';
import { factsOf, type Mark, sizeWords } from './safekeeping.model.ts';
import { momentWords } from '../../shared/time-words.ts';

/** How safe the records are: backups, checks of the chains, their heads. For the lead. */
const session = useSession();
const { found: view, failure: unread, put } = useReply(ROUTES.safekeeping, () => ({}));
const { failure: unchecked, busy: checking, act } = useAct();
const failure = computed(() => unchecked.value ?? unread.value);

const facts = computed(() => (view.value ? factsOf(view.value, Date.now()) : []));
const findings = computed(() => view.value?.checks[0]?.findings ?? []);
const MARKS: Readonly<Record<Mark, string>> = { good: 'In order', bad: 'Needs you', open: 'Not there' };
const classOf = (id: string | null): string | null => session.classes.find((c) => c.id === id)?.name ?? null;
const when = (iso: string): string => momentWords(iso, 'full');
const fileOf = (path: string): string => path.split('/').pop() ?? path;

const check = (): Promise<boolean> => act(async () => put(await request(ROUTES.checkRecords, {})));
const print = (): void => window.print();
</script>

<template>
  <div class="page">
    <div class="top">
      <h1>Safekeeping</h1>
      <span class="row">
        <el-button type="primary" size="large" :loading="checking" data-test="check-now" @click="check">
          {{ checking ? 'Checking every record' : 'Check the records now' }}
        </el-button>
        <el-button size="large" @click="print">Print the heads</el-button>
      </span>
    </div>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <el-skeleton v-if="!view && !failure" :rows="6" animated />
    <template v-if="view">
      <ul class="facts">
        <li v-for="fact in facts" :key="fact.title" :class="fact.mark" :data-mark="fact.mark">
          <svg viewBox="0 0 32 32" width="36" height="36" aria-hidden="true">
            <circle cx="16" cy="16" r="12" fill="none" stroke="currentColor" stroke-width="3" />
            <path v-if="fact.mark === 'good'" d="M10 16.5l4.2 4.2L22.4 12" />
            <path v-else-if="fact.mark === 'bad'" d="M16 9v9M16 22.2v.6" />
            <path v-else d="M11 16h10" />
          </svg>
          <div>
            <h2>{{ fact.title }} <span class="soft small">{{ MARKS[fact.mark] }}</span></h2>
            <p>{{ fact.words }}</p>
          </div>
        </li>
      </ul>

      <section v-if="findings.length > 0" class="section" data-test="findings">
        <h2>What does not fit</h2>
        <ol>
          <li v-for="(f, i) in findings" :key="i">
            <RouterLink
              v-if="f.attemptId && f.classId"
              :to="{ name: 'sheet', params: { classId: f.classId, attemptId: f.attemptId } }"
              >{{ findingWords(f, classOf(f.classId)) }}</RouterLink
            >
            <template v-else>{{ findingWords(f, classOf(f.classId)) }}</template>
          </li>
        </ol>
      </section>

      <section class="section two">
        <div>
          <h2>Backups</h2>
          <el-table :data="view.backups" empty-text="None was made by this server" size="large">
            <el-table-column label="Made" min-width="150">
              <template #default="{ row }">{{ when(row.at) }}</template>
            </el-table-column>
            <el-table-column label="File" min-width="220">
              <template #default="{ row }">{{ row.failed ?? fileOf(row.file) }}</template>
            </el-table-column>
            <el-table-column label="Size" width="100" align="right">
              <template #default="{ row }">{{ row.failed ? 'failed' : sizeWords(row.bytes) }}</template>
            </el-table-column>
          </el-table>
          <p class="soft small">
            Back to one of them: <code>./clear-mark restore FILE</code>. It is checked whole before anything
            is touched, and what is there now is kept under another name.
          </p>
        </div>
        <div>
          <h2>Checks of the records</h2>
          <el-table :data="view.checks" empty-text="Not checked yet" size="large">
            <el-table-column label="When" min-width="150">
              <template #default="{ row }">{{ when(row.at) }}</template>
            </el-table-column>
            <el-table-column label="By" min-width="110">
              <template #default="{ row }">{{ row.by ?? 'the night' }}</template>
            </el-table-column>
            <el-table-column label="Records" prop="revisions" width="100" align="right" />
            <el-table-column label="Findings" width="100" align="right">
              <template #default="{ row }">{{ row.findings.length }}</template>
            </el-table-column>
          </el-table>
        </div>
      </section>

      <section class="section print">
        <h2>Heads of the chains</h2>
        <p class="soft">
          Each record holds the hash of the one before it. Whoever keeps one of these lines on paper can show
          later that no record up to it was changed or taken away.
        </p>
        <el-table :data="view.heads" empty-text="No head is kept yet" size="large">
          <el-table-column label="Day" prop="day" width="130" />
          <el-table-column label="Class" prop="className" min-width="180" />
          <el-table-column label="Record" prop="classSeq" width="100" align="right" />
          <el-table-column label="SHA-256" min-width="560">
            <template #default="{ row }"><code class="hash">{{ row.hash }}</code></template>
          </el-table-column>
        </el-table>
      </section>
    </template>
  </div>
</template>

<style scoped>
.top {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
  justify-content: space-between;
}
.facts {
  list-style: none;
  margin: 12px 0 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(280px, 1fr));
  gap: 4px 28px;
}
.facts li {
  display: flex;
  gap: 14px;
  padding: 14px 0;
  border-top: 1px solid var(--hair-strong);
}
.facts svg {
  flex: none;
}
.facts path {
  fill: none;
  stroke: currentcolor;
  stroke-width: 3;
  stroke-linecap: round;
}
.facts h2,
.facts p {
  margin: 0;
}
.facts .open svg {
  color: var(--ink-soft);
}
.facts .bad h2 {
  text-decoration: underline;
  text-decoration-thickness: 3px;
  text-underline-offset: 4px;
}
.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(440px, 1fr));
  gap: 12px 32px;
}
.hash {
  font-size: 0.8125rem;
  overflow-wrap: anywhere;
}
@media print {
  .acts,
  .section:not(.print),
  .facts {
    display: none;
  }
}
</style>
