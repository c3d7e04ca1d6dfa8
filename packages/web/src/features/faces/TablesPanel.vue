<script setup lang="ts">
import {
  type FaceCriteria,
  FACE_CRITERIA,
  type FeatureRule,
  type SizeBand,
  type ZoneRule,
  readTyped,
} from '@clear-mark/core';
import { sourceWords, typedProblem } from '@clear-mark/words';
import { computed, ref, shallowRef, watch } from 'vue';
import { call, ROUTES, wordsOf } from '../../api/client.ts';
import CommitField from '../../shared/CommitField.vue';

/** The tables that faces are graded by: zones, sizes and counts, each with its source. A school keeps its own copy. */
const props = defineProps<{ classId: string; tables: readonly FaceCriteria[] }>();
const emit = defineEmits<{ saved: [] }>();
const openId = ref('sm-pc');
const draft = shallowRef<FaceCriteria | null>(null);
const failure = ref<string | null>(null);
const busy = ref(false);
const shown = computed(
  () => draft.value ?? props.tables.find((t) => t.id === openId.value) ?? FACE_CRITERIA[0]!,
);
watch(openId, () => (draft.value = null));

const KINDS = [
  { key: 'scratches', label: 'Scratches, by width' },
  { key: 'defects', label: 'Defects, by enclosing diameter' },
] as const;
type Key = (typeof KINDS)[number]['key'];

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
const withRule = (zone: number, key: Key, rule: FeatureRule): void =>
  change(shown.value.zones.map((z, i) => (i === zone ? { ...z, [key]: rule } : z)));
function withBand(zone: number, key: Key, index: number, more: Partial<SizeBand>): void {
  const rule = shown.value.zones[zone]![key];
  if (rule === 'no_limit') return;
  withRule(
    zone,
    key,
    rule.map((b, i) => (i === index ? { ...b, ...more } : b)),
  );
}
function addBand(zone: number, key: Key): void {
  const rule = shown.value.zones[zone]![key];
  const bands = rule === 'no_limit' ? [] : rule;
  const last = bands[bands.length - 1];
  withRule(zone, key, [...bands, { fromUm: last?.toUm ?? 0, toUm: (last?.toUm ?? 0) + 3, count: null }]);
}
function dropBand(zone: number, key: Key, index: number): void {
  const rule = shown.value.zones[zone]![key];
  if (rule !== 'no_limit') {
    withRule(
      zone,
      key,
      rule.filter((_, i) => i !== index),
    );
  }
}
/** A size that was cleared is no size of 0: it stays as it was, and says so. */
function setNumber(text: string, take: (value: number) => void): void {
  const typed = readTyped(text, { least: 0, most: 1000 });
  failure.value = typedProblem(typed, 'a size', 'µm');
  if (typed.kind === 'number') take(typed.value);
}
function setCount(text: string, zone: number, key: Key, index: number): void {
  const typed = readTyped(text.trim() === 'any' ? '' : text, { least: 0, whole: true });
  failure.value = typed.kind === 'empty' ? null : typedProblem(typed, 'a number of marks; empty is any');
  if (typed.kind === 'empty') withBand(zone, key, index, { count: null });
  else if (typed.kind === 'number') withBand(zone, key, index, { count: typed.value });
}
function bandWords(band: SizeBand): string {
  const many = band.count === null ? 'any number' : String(band.count);
  const upTo = band.under ? `under ${band.toUm}` : `to ${band.toUm}`;
  return band.fromUm === 0
    ? `${many} ${band.under ? '' : 'up '}${upTo} µm`
    : `${many} from ${band.fromUm} ${upTo} µm`;
}
const ruleWords = (rule: FeatureRule): string => {
  if (rule === 'no_limit') return 'no limit';
  return rule.length === 0 ? 'none' : `${rule.map(bandWords).join(', ')}, none larger`;
};
async function save(): Promise<void> {
  if (!draft.value) return;
  busy.value = true;
  failure.value = null;
  try {
    const { title, zones, source, id } = draft.value;
    const saved = await call(ROUTES.saveFaceTable, {
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
      <el-button size="large" @click="draft = null">Leave it</el-button>
    </div>
    <div v-else class="row head">
      <h2>{{ shown.title }}</h2>
      <el-button size="large" @click="edit">
        {{ shown.id.startsWith('class/') ? 'Edit' : 'Make our own copy' }}
      </el-button>
    </div>
    <table class="plain">
      <thead>
        <tr>
          <th>Zone</th>
          <th>Diameter</th>
          <th v-for="k in KINDS" :key="k.key">{{ k.label }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(z, i) in shown.zones" :key="z.zone">
          <th scope="row">{{ z.zone }}</th>
          <td class="span">{{ z.fromUm }} to {{ z.toUm }} µm</td>
          <td v-for="k in KINDS" :key="k.key">
            <template v-if="draft">
              <el-checkbox
                size="large"
                label="no limit"
                :model-value="z[k.key] === 'no_limit'"
                @change="(on: unknown) => withRule(i, k.key, on ? 'no_limit' : [])"
              />
              <template v-if="z[k.key] !== 'no_limit'">
                <div v-for="(b, n) in z[k.key] as SizeBand[]" :key="n" class="row band">
                  <CommitField
                    class="short"
                    inputmode="decimal"
                    :label="`Zone ${z.zone}, ${k.key}, how many`"
                    :value="b.count === null ? 'any' : String(b.count)"
                    @commit="setCount($event, i, k.key, n)"
                  />
                  from
                  <CommitField
                    class="short"
                    inputmode="decimal"
                    :label="`Zone ${z.zone}, ${k.key}, from`"
                    :value="String(b.fromUm)"
                    @commit="setNumber($event, (v) => withBand(i, k.key, n, { fromUm: v }))"
                  />
                  to
                  <CommitField
                    class="short"
                    inputmode="decimal"
                    :label="`Zone ${z.zone}, ${k.key}, to`"
                    :value="String(b.toUm)"
                    @commit="setNumber($event, (v) => withBand(i, k.key, n, { toUm: v }))"
                  />
                  µm
                  <el-button
                    size="large"
                    text
                    :aria-label="`Take the size away, zone ${z.zone}`"
                    @click="dropBand(i, k.key, n)"
                  >
                    Take away
                  </el-button>
                </div>
                <el-button size="large" text @click="addBand(i, k.key)">Add a size</el-button>
              </template>
            </template>
            <template v-else>{{ ruleWords(z[k.key]) }}</template>
          </td>
        </tr>
      </tbody>
    </table>
    <p class="small soft source">
      {{ sourceWords(shown.source) }}. A feature counts in every zone that any part of it touches. What was
      graded keeps the version that it was graded by.
    </p>
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
.short {
  width: 76px;
}
.title {
  width: min(100%, 420px);
}
.band {
  flex-wrap: nowrap;
  margin-bottom: 4px;
}
.span {
  white-space: nowrap;
}
input[type='checkbox'] {
  width: 22px;
  height: 22px;
  accent-color: var(--accent);
}
label.row {
  min-height: var(--tap);
}
.source {
  margin-top: 10px;
}
th[scope='row'] {
  font-size: 1.125rem;
  text-align: left;
  vertical-align: middle;
  color: var(--ink);
  border-bottom-color: var(--hair);
}
</style>
