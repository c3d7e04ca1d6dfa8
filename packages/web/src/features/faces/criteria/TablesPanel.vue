<script setup lang="ts">
import { type FaceCriteria, FACE_CRITERIA, type FeatureRule, type ZoneRule } from '@clear-mark/core';
import { sourceWords, zoneRuleWords } from '@clear-mark/words';
import ZoneCardDialog from './ZoneCardDialog.vue';
import { computed, ref, shallowRef, watch } from 'vue';
import { request, ROUTES, wordsOf } from '../../../api/client.ts';
import CommitField from '../../../shared/CommitField.vue';
import { RULE_KINDS, type RuleKind } from './zone-rule.model.ts';
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
    title: shown.value.id.startsWith('class/')
      ? shown.value.title
      : `${shown.value.title}, our copy`.slice(0, 60),
    source: { kind: 'house', fromMemory: false, words: 'this school’s own table' },
  };
}
const change = (zones: readonly ZoneRule[]): void => void (draft.value = { ...shown.value, zones });
const withRule = (zone: number, key: RuleKind, rule: FeatureRule): void =>
  change(shown.value.zones.map((z, i) => (i === zone ? { ...z, [key]: rule } : z)));
interface Line {
  row: ZoneRule;
  $index: number;
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
    </div>
    <el-table :data="[...shown.zones]" row-key="zone" data-test="zones">
      <el-table-column label="Zone" width="80">
        <template #default="{ row: z }: Line"
          ><b class="zone">{{ z.zone }}</b></template
        >
      </el-table-column>
      <el-table-column label="Diameter" width="150">
        <template #default="{ row: z }: Line">{{ z.fromUm }} to {{ z.toUm }} µm</template>
      </el-table-column>
      <el-table-column v-for="k in RULE_KINDS" :key="k.key" :label="k.label" min-width="320">
        <template #default="{ row: z, $index: i }: Line">
          <ZoneRuleField
            v-if="draft"
            :zone="z.zone"
            :kind="k.key"
            :rule="z[k.key]"
            @change="withRule(i, k.key, $event)"
            @wrong="failure = $event"
          />
          <template v-else>{{ zoneRuleWords(z[k.key]) }}</template>
        </template>
      </el-table-column>
    </el-table>
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
.zone {
  font-size: 1.125rem;
}
.source {
  margin-top: 10px;
}
</style>
