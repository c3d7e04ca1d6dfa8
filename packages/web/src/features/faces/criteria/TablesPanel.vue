<script setup lang="ts">
import { type FaceCriteria, FACE_CRITERIA, type FeatureRule, type ZoneRule } from '@clear-mark/core';
import { sourceWords } from '@clear-mark/words';
import ZoneCardDialog from './ZoneCardDialog.vue';
import { computed, ref, shallowRef, watch } from 'vue';
import { request, ROUTES, wordsOf } from '../../../api/client.ts';
import { useReply } from '../../../api/queries.ts';
import { useSession } from '../../../session/session.ts';
import ChoiceField from '../../../shared/ChoiceField.vue';
import CommitField from '../../../shared/CommitField.vue';
import { copyTitle } from '../../../shared/copy-title.ts';
import { tablesOf } from '../../../shared/school-tables.ts';
import { offerUndo } from '../../../shared/undo.ts';
import ZoneRules from '../../../shared/ZoneRules.vue';
import type { RuleKind } from '../../../shared/zone-rules.ts';
import { v7 } from 'uuid';
import ZoneRuleField from './ZoneRuleField.vue';

/** The tables that faces are graded by: zones, sizes and counts, each with its source. A school keeps its own copy. */
const props = defineProps<{ classId: string; tables: readonly FaceCriteria[] }>();
const emit = defineEmits<{ saved: [] }>();
const openId = ref('sm-pc');
const draft = shallowRef<FaceCriteria | null>(null);
const failure = ref<string | null>(null);
const busy = ref(false);
const onPaper = ref(false);
const shown = computed(
  () => draft.value ?? props.tables.find((t) => t.id === openId.value) ?? FACE_CRITERIA[0]!,
);
watch(openId, () => (draft.value = null));

function edit(): void {
  draft.value = {
    ...shown.value,
    title: shown.value.id.startsWith('class/') ? shown.value.title : copyTitle(shown.value.title, 60),
    source: { kind: 'house', fromMemory: false, words: 'this school’s own table' },
  };
}
const change = (zones: readonly ZoneRule[]): void => void (draft.value = { ...shown.value, zones });
const withRule = (zone: number, key: RuleKind, rule: FeatureRule): void =>
  change(shown.value.zones.map((z, i) => (i === zone ? { ...z, [key]: rule } : z)));
const session = useSession();
const { found, again } = useReply(ROUTES.schoolTables, () => ({}));
const ofSchool = computed(() => tablesOf(found.value, 'zones'));
/** A table of the school to begin from: it becomes the class's own by a save. */
function take(id: string): void {
  const { title, content } = ofSchool.value.find((t) => t.id === id)!;
  const { base, ...rest } = content;
  draft.value = { ...rest, title, id: `class/${base}`, version: 0 };
}
/** Kept for all classes: the next version of the one of this name, or a new one. */
async function keepForSchool(retired = false): Promise<void> {
  const { title, zones, source, id } = shown.value;
  const base = id.replace('class/', '');
  const before = found.value?.find((t) => t.kind === 'zones' && t.title === title);
  const table = { kind: 'zones' as const, title, content: { base, zones, source: { ...source } } };
  failure.value = null;
  try {
    await request(ROUTES.saveSchoolTable, {
      params: { id: before?.id ?? v7() },
      body: { from: before?.version ?? 0, retired, table },
    });
    await again();
    if (!retired) offerUndo(`${title} is kept for all classes.`, () => keepForSchool(true));
  } catch (error) {
    failure.value = wordsOf(error);
  }
}
async function save(): Promise<void> {
  if (!draft.value) return;
  busy.value = true;
  failure.value = null;
  try {
    const { title, zones, source, id } = draft.value;
    const saved = await request(ROUTES.saveFaceTable, {
      params: { id: props.classId },
      body: {
        base: id.replace('class/', ''),
        title,
        source: { ...source },
        zones,
      },
    });
    draft.value = null;
    openId.value = saved.id;
    emit('saved');
  } catch (error) {
    failure.value = wordsOf(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <section aria-label="Tables of criteria">
    <div class="row tabs">
      <el-button
        v-for="t in tables"
        :key="t.id"
        size="large"
        :aria-pressed="openId === t.id"
        @click="openId = t.id"
      >
        {{ t.title }}<span v-if="t.id.startsWith('class/')" class="small soft">version {{ t.version }}</span>
      </el-button>
    </div>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <div v-if="draft" class="row head">
      <CommitField
        class="title"
        label="Title"
        :value="draft.title"
        :maxlength="60"
        @commit="draft = { ...draft!, title: $event }"
      />
      <el-button size="large" type="primary" :disabled="busy" @click="save"
        >Save as the next version</el-button
      >
      <el-button size="large" @click="draft = null">Cancel</el-button>
    </div>
    <div v-else class="row head">
      <h2>{{ shown.title }}</h2>
      <el-button size="large" @click="onPaper = true">Put on paper</el-button>
      <el-button size="large" @click="edit">
        {{ shown.id.startsWith('class/') ? 'Edit' : 'Make our own copy' }}
      </el-button>
      <el-button
        v-if="session.me?.role === 'lead' && shown.id.startsWith('class/')"
        size="large"
        @click="keepForSchool()"
        >Keep for all classes</el-button
      >
      <ChoiceField
        v-if="ofSchool.length > 0"
        label="Begin from a table of the school"
        none="none"
        model-value=""
        :options="ofSchool.map((t) => ({ value: t.id, label: `${t.title}, version ${t.version}` }))"
        @change="take"
      />
    </div>
    <ZoneRules :zones="shown.zones">
      <template v-if="draft" #rule="{ zone: z, index, kind }">
        <ZoneRuleField
          :zone="z.zone"
          :kind="kind"
          :rule="z[kind]"
          @change="withRule(index, kind, $event)"
          @wrong="failure = $event"
        />
      </template>
    </ZoneRules>
    <p class="small soft source">
      {{ sourceWords(shown.source) }}. A feature counts in every zone that any part of it touches. What was
      graded keeps the version that it was graded by.
    </p>
    <ZoneCardDialog v-if="onPaper" :table="shown" @close="onPaper = false" />
  </section>
</template>

<style scoped>
.tabs {
  flex-wrap: wrap;
}
.tabs .el-button {
  flex-direction: column;
  gap: 0;
}
.head {
  margin: 16px 0 6px;
}
.title {
  width: min(100%, 420px);
}
.source {
  margin-top: 10px;
}
</style>
