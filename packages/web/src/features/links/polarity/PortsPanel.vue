<script setup lang="ts">
import {
  type ChannelPart,
  channelMap,
  channelParts,
  type CriterionOutcome,
  DEFAULT_SCORING,
  type Entry,
  type EntryValue,
  explainChannel,
  fiberColour,
  type MapCriterion,
  mapReasons,
  type MethodSheet,
  score,
  TRUNK_TYPES,
} from '@clear-mark/core';
import { reasonWords } from '@clear-mark/words';
import { computed, ref, watch } from 'vue';
import MapField from '../../../shared/MapField.vue';
import { useClassroom } from '../../../classroom/use-classroom.ts';
import { mapFromText } from './ports.model.ts';
import ChoiceField from '../../../shared/ChoiceField.vue';

/** Where each port comes out: the channel put together from its parts, a walk, and what a wrong map means. */
defineProps<{ classId: string }>();
const classroom = useClassroom();
const ports = ref(12);
const parts = ref<ChannelPart[]>([
  { kind: 'cassette', turned: false },
  { kind: 'trunk', type: 'A' },
  { kind: 'cassette', turned: false },
]);
const walked = ref<(number | null)[]>([]);
const text = ref('');
const textProblem = ref<string | null>(null);
const SOURCE = { kind: 'house', fromMemory: false, words: 'walked here' } as const;

watch(ports, (n) => (walked.value = Array<null>(n).fill(null)), { immediate: true });
const links = computed(() =>
  (classroom.detail?.links ?? []).filter((l) => !l.retired && channelParts(l.plan).length > 0),
);
const takenLink = ref('');
function takeLink(id: string): void {
  takenLink.value = id;
  const link = links.value.find((l) => l.id === id);
  if (!link) return;
  parts.value = channelParts(link.plan).map((p) => ({ ...p }));
  ports.value = link.plan.fibers;
}

const expected = computed(() => channelMap({ ports: ports.value, parts: parts.value }));
const criterion = computed<MapCriterion>(() => ({
  id: 'map',
  label: 'Where each port came out',
  kind: 'map',
  points: 1,
  critical: false,
  required: true,
  source: SOURCE,
  ports: ports.value,
  trunk: 'A',
  parts: parts.value,
}));
const entry = computed<Entry>(() => ({
  id: walked.value.join(),
  kind: 'value',
  criterionId: 'map',
  part: '',
  voidReason: null,
  note: null,
  authorId: '',
  capacity: 'instructor',
  deviceId: '',
  source: 'typed',
  at: '',
  supersedes: [],
  targetId: null,
  value: { kind: 'map', far: walked.value } as EntryValue,
}));
const sheet = computed<MethodSheet>(() => ({
  id: 'walk',
  version: 1,
  title: '',
  summary: '',
  pieceKind: 'link',
  fiberClass: 'OM4',
  passMarkPercent: 80,
  passMarkSource: SOURCE,
  cautions: [],
  thingsUsed: [],
  steps: [
    { id: 'walk', title: '', skill: 'test', place: 'instruments', how: '', criteria: [criterion.value] },
  ],
}));
const outcome = computed<CriterionOutcome>(
  () => score(sheet.value, [entry.value], DEFAULT_SCORING).criteria[0]!,
);
const complete = computed(() => walked.value.every((far) => far !== null));
const explanation = computed(() =>
  complete.value
    ? explainChannel({ ports: ports.value, parts: parts.value }, walked.value as number[])
    : null,
);
const said = computed(() =>
  explanation.value ? mapReasons(explanation.value, parts.value).map((r) => reasonWords(r, () => '')) : [],
);
function take(value: EntryValue): void {
  if (value.kind === 'map') walked.value = [...value.far];
}
function takeText(): void {
  const read = mapFromText(text.value, ports.value);
  textProblem.value = typeof read === 'string' ? read : null;
  if (typeof read !== 'string') walked.value = [...read];
}

const nameOf = (part: ChannelPart): string =>
  part.kind === 'trunk'
    ? `Trunk ${part.type}`
    : part.kind === 'cassette'
      ? part.turned
        ? 'Cassette, turned'
        : 'Cassette'
      : part.crossed
        ? 'A-to-B cords'
        : 'A-to-A cords';
/** The next state of a part: a tap turns it. */
function turn(at: number): void {
  parts.value = parts.value.map((part, i) => {
    if (i !== at) return part;
    if (part.kind === 'trunk')
      return { ...part, type: TRUNK_TYPES[(TRUNK_TYPES.indexOf(part.type) + 1) % 3]! };
    return part.kind === 'cassette' ? { ...part, turned: !part.turned } : { ...part, crossed: !part.crossed };
  });
}
const add = (part: ChannelPart): void => {
  parts.value = [...parts.value, part];
};
</script>

<template>
  <section>
    <div class="row">
      <h2>The channel</h2>
      <label v-if="links.length > 0" class="row">
        <span class="soft">from</span>
        <ChoiceField
          bare
          label="Take the channel of a link"
          none="put together here"
          :model-value="takenLink"
          :options="links.map((l) => ({ value: l.id, label: l.label }))"
          @change="takeLink"
        />
      </label>
      <label class="row">
        <span class="soft">ports</span>
        <ChoiceField
          v-model="ports"
          bare
          label="Ports"
          :options="[2, 8, 12, 24, 48, 96, 144].map((n) => ({ value: n, label: String(n) }))"
        />
      </label>
    </div>
    <div class="row channel" role="group" aria-label="Parts, near end first">
      <span class="soft">near</span>
      <template v-for="(part, i) in parts" :key="i">
        <span class="part">
          <el-button size="large" :title="`Turn part ${i + 1}`" @click="turn(i)">
            <span class="soft small">{{ i + 1 }}</span> {{ nameOf(part) }}
          </el-button>
          <el-button
            size="large"
            text
            :aria-label="`Remove part ${i + 1}`"
            @click="parts = parts.filter((_, k) => k !== i)"
          >
            ×
          </el-button>
        </span>
      </template>
      <span class="soft">far</span>
      <el-button size="large" @click="add({ kind: 'cassette', turned: false })"> Add cassette </el-button>
      <el-button size="large" @click="add({ kind: 'trunk', type: 'A' })">Add trunk</el-button>
      <el-button size="large" @click="add({ kind: 'cords', crossed: true })"> Add duplex cords </el-button>
    </div>
    <p class="small soft">
      Tap a part to change it: trunk type A, B, C; cassette turned; cords A-to-A or A-to-B.
    </p>
  </section>
  <section class="section walked">
    <div>
      <div class="row spread">
        <h2>The walk</h2>
        <div class="row">
          <el-button size="large" @click="walked = [...expected]">All as they should be</el-button>
          <el-button size="large" @click="walked = Array(ports).fill(null)">Begin again</el-button>
        </div>
      </div>
      <MapField
        v-if="ports <= 24"
        :criterion="criterion"
        :outcome="outcome"
        :entry="entry"
        :locked="false"
        @value="take"
        @focus="() => undefined"
        @done="() => undefined"
      />
      <label v-else class="field">
        <span>Far ports in the order of the near ones, 0 for no light: {{ ports }} numbers</span>
        <el-input v-model="text" type="textarea" :rows="8" />
      </label>
      <el-button v-if="ports > 24" size="large" type="primary" @click="takeText">Explain</el-button>
      <p v-if="textProblem" class="notice bad" role="alert">{{ textProblem }}</p>
    </div>
    <div class="says" aria-live="polite" data-test="explanation">
      <template v-if="explanation">
        <h2 v-if="explanation.cost === 0">Every port comes out where it should.</h2>
        <template v-else>
          <h2>
            {{ explanation.cost === 1 ? 'One fault explains it' : `${explanation.cost} faults explain it` }}
          </h2>
          <ul>
            <li v-for="words in said" :key="words">
              {{ words.slice(0, 1).toUpperCase() + words.slice(1) }}.
            </li>
          </ul>
        </template>
      </template>
      <p v-else class="soft">
        {{ walked.filter((f) => f === null).length }} of {{ ports }} ports not walked yet.
      </p>
      <h3>As it should be</h3>
      <ol class="expected">
        <li v-for="(far, i) in expected.slice(0, 24)" :key="i">
          <i :style="{ background: `var(--fiber-${fiberColour(i + 1)})` }" /> {{ i + 1 }} → {{ far }}
          <span class="small soft">{{ fiberColour(i + 1) }}</span>
        </li>
      </ol>
    </div>
  </section>
</template>

<style scoped>
.channel {
  margin: 10px 0 6px;
}
.part {
  display: inline-flex;
}
.walked {
  display: grid;
  grid-template-columns: minmax(0, 1.7fr) minmax(240px, 1fr);
  gap: 28px;
}
.walked :deep(.map-field) {
  padding-left: 0;
}
.says {
  position: sticky;
  top: 12px;
  align-self: start;
  display: grid;
  gap: 10px;
}
ul {
  margin: 0;
  padding-left: 20px;
}
.expected {
  list-style: none;
  padding: 0;
  margin: 0;
  columns: 2;
}
.expected li {
  padding: 2px 0;
}
.expected i {
  display: inline-block;
  width: 14px;
  height: 14px;
  border: 1px solid var(--ink-soft);
  border-radius: 50%;
  vertical-align: -2px;
}
textarea {
  width: 100%;
  border: 1px solid var(--hair-strong);
  background: var(--sheet);
}
@media (max-width: 900px) {
  .walked {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
