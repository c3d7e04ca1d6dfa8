<script setup lang="ts">
import { rateWords, skillInText, skillWords, STANDING_WORDS, VERDICT_WORDS } from '@clear-mark/words';
import type { ClassDetail, ResultFilter, WhatIfSetting } from '@clear-mark/contract';
import type { Skill } from '@clear-mark/core';
import { computed, nextTick, reactive, ref, watch } from 'vue';
import { ROUTES } from '../../../api/client.ts';
import { useReply } from '../../../api/queries.ts';
import { useWhatIf } from './use-what-if.ts';
import { movableLimits, settingWords, whatIfWords } from './what-if.model.ts';
import WhatIfForm from './WhatIfForm.vue';
import ChoiceField from '../../../shared/ChoiceField.vue';

const props = defineProps<{
  detail: ClassDetail;
  filter: ResultFilter;
  /** The method that the class works by most. */
  busiest: string | null;
}>();
interface Line {
  row: NonNullable<typeof results.value>[number]['counts']['skills'][number];
}
const AS_IT_IS: WhatIfSetting = { label: 'A', passMark: null, limit: null, policy: null };
const settings = reactive<WhatIfSetting[]>([{ ...AS_IT_IS }, { ...AS_IT_IS, label: 'B' }]);
const methods = computed(() => props.detail.methods.filter((m) => m.inUse));
const first = [props.filter.method, props.busiest].flatMap(
  (id) => methods.value.find((m) => m.methodId === id) ?? [],
)[0];
const versionId = ref((first ?? methods.value[0])?.versionId ?? '');
const { found: version, failure } = useReply(ROUTES.methodVersion, () =>
  versionId.value === '' ? null : { params: { id: versionId.value } },
);
const sheet = computed(() => version.value?.sheet ?? null);
const limits = computed(() => (sheet.value ? movableLimits(sheet.value) : []));
const { results, progress, failure: refused, ms, run, cancel } = useWhatIf(() => props.detail.id);
const bad = ref([false, false]);
const moves = (s: WhatIfSetting): boolean => s.passMark !== null || s.limit !== null || s.policy !== null;

const shownAt = ref<HTMLElement | null>(null);
watch(results, async (found) => {
  await nextTick();
  if (found) shownAt.value?.scrollIntoView({ block: 'nearest' });
});
function ask(): void {
  const asked = settings.filter((s, i) => i === 0 || moves(s)).map((s) => ({ ...s }));
  run(props.filter, props.detail.policy, asked);
}
const skillName = (skill: string): string =>
  skill === 'whole' ? 'Whole pieces' : skillWords(skill as Skill);
</script>

<template>
  <section class="section">
    <h2>What if a limit, a pass mark or the policy were another?</h2>
    <p class="soft">
      Every signed attempt{{ Object.values(filter).some((v) => v !== undefined) ? ' of this choice' : '' }} is
      scored again, by the same scoring. What is signed stays as it is.
    </p>
    <ChoiceField
      v-model="versionId"
      label="Method whose limit moves"
      :options="methods.map((m) => ({ value: m.versionId, label: m.title }))"
    />
    <div class="two">
      <WhatIfForm
        v-for="(setting, i) in settings"
        :key="setting.label"
        v-model="settings[i]!"
        :limits="limits"
        :policy="detail.policy"
        @bad="bad[i] = $event"
      />
    </div>
    <div class="row">
      <el-button size="large" type="primary" :disabled="progress !== null || bad.includes(true)" @click="ask">
        Score again
      </el-button>
      <template v-if="progress">
        <span role="status">{{ progress.done }} of {{ progress.total || '…' }} attempts</span>
        <el-button size="large" @click="cancel">Cancel</el-button>
      </template>
      <span v-else-if="ms !== null" class="soft small" data-test="took" :data-ms="ms"
        >worked out in {{ (ms / 1000).toFixed(2) }} s</span
      >
    </div>
    <details>
      <summary>How this is counted</summary>
      <p class="soft">
        Each attempt is scored twice by the scoring of the sheet: as it was signed, and with the limit, pass
        mark or policy moved; what is signed is never changed. Standings before and after rest on these
        attempts alone, without sign-offs: choose the whole class to see those of the first view. Rates with
        Wilson’s 95 % interval (Wilson 1927).
      </p>
    </details>
    <p v-if="failure ?? refused" class="notice bad" role="alert">{{ failure ?? refused }}</p>
  </section>
  <section v-if="results" ref="shownAt" class="section">
    <div class="two">
      <article
        v-for="{ setting, counts: r } in results"
        :key="setting.label"
        class="result"
        :data-result="setting.label"
      >
        <h3>{{ setting.label }}: {{ settingWords(setting, limits) }}</h3>
        <p class="said">{{ whatIfWords(r) }}</p>
        <el-table :data="[...r.skills]" row-key="skill">
          <el-table-column label="Skill" min-width="120">
            <template #default="{ row: s }: Line"
              ><span :data-skill="s.skill">{{ skillName(s.skill) }}</span></template
            >
          </el-table-column>
          <el-table-column label="As signed" min-width="150">
            <template #default="{ row: s }: Line"
              ><span class="soft">{{ rateWords(s.before) }}</span></template
            >
          </el-table-column>
          <el-table-column :label="`By ${setting.label}`" min-width="150">
            <template #default="{ row: s }: Line">{{ rateWords(s.after) }}</template>
          </el-table-column>
        </el-table>
        <template v-if="r.standings.length > 0">
          <h4>Who would stand otherwise</h4>
          <ul class="plain-list">
            <li v-for="s in r.standings" :key="s.traineeId + s.skill">
              {{ s.traineeName }}, {{ skillInText(s.skill) }}: {{ STANDING_WORDS[s.before].toLowerCase() }} →
              <b>{{ STANDING_WORDS[s.after].toLowerCase() }}</b>
            </li>
          </ul>
        </template>
        <template v-if="r.changes.length > 0">
          <h4>Which pieces{{ r.changes.length < r.changed ? `, the first ${r.changes.length}` : '' }}</h4>
          <ul class="plain-list pieces">
            <li v-for="c in r.changes" :key="c.attemptId">
              <RouterLink :to="{ name: 'sheet', params: { classId: detail.id, attemptId: c.attemptId } }"
                >{{ c.traineeName }}, {{ c.pieceLabel }}</RouterLink
              >: {{ VERDICT_WORDS[c.before].toLowerCase() }} →
              <b>{{ VERDICT_WORDS[c.after].toLowerCase() }}</b>
            </li>
          </ul>
        </template>
      </article>
    </div>
  </section>
</template>

<style scoped>
.method {
  max-width: 420px;
  margin: 10px 0;
}
.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(380px, 1fr));
  gap: 16px 32px;
  margin-bottom: 14px;
}
.said {
  font-size: 1.125rem;
  margin: 4px 0 8px;
}
h4 {
  margin: 14px 0 4px;
}
.plain-list {
  list-style: none;
  padding: 0;
  margin: 0;
  display: grid;
  gap: 4px;
}
.pieces {
  max-height: 260px;
  overflow: auto;
}
</style>
