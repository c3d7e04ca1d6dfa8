<script setup lang="ts">
import type { ClassDetail, DayPlanBody, StockThing } from '@clear-mark/contract';
import { thingWords } from '@clear-mark/words';
import { computed, ref } from 'vue';
import { instantAt, wallTime } from '../../../shared/wall-time.ts';
import ChoiceField from '../../../shared/ChoiceField.vue';
import { ovensOf, renumbered, STATION_KINDS } from './day-draft.model.ts';

/** When the day is worked, who teaches, and what is there: a tap takes a thing out of the day or puts it back. */
const props = defineProps<{
  day: DayPlanBody;
  date: string;
  detail: ClassDetail;
  things: readonly StockThing[];
}>();
const emit = defineEmits<{ change: [day: DayPlanBody] }>();
const refused = ref('');
const spans = computed(() =>
  props.day.hours.map((h) => [wallTime(h.from).slice(11), wallTime(h.to).slice(11)] as [string, string]),
);

/** Hours as they are typed: from before to, and one after the other. */
function setHours(next: readonly [string, string][]): void {
  const isGood = next.every((span, i) => span[0] < span[1] && (i === 0 || next[i - 1]![1] <= span[0]));
  refused.value = isGood
    ? ''
    : 'Hours end after they begin, and one part comes after the other. Nothing was changed.';
  if (!isGood) return;
  const hours = next.map((span) => ({
    from: instantAt(`${props.date}T${span[0]}`),
    to: instantAt(`${props.date}T${span[1]}`),
  }));
  emit('change', { ...props.day, hours });
}
function setSpan(i: number, value: [string, string] | null): void {
  if (value) setHours(spans.value.map((span, k) => (k === i ? value : span)));
}
function addSpan(): void {
  const last = spans.value.at(-1)![1];
  const hour = Number(last.slice(0, 2)) + 1;
  if (hour > 22) refused.value = 'The day has no more hours. Nothing was changed.';
  else
    setHours([
      ...spans.value,
      [`${String(hour).padStart(2, '0')}:00`, `${String(hour + 1).padStart(2, '0')}:00`],
    ]);
}
const removeSpan = (i: number): void => setHours(spans.value.filter((_, k) => k !== i));

interface Present {
  readonly id: string;
  readonly label: string;
  readonly isHere: boolean;
  readonly note: string;
}
const groups = computed(() => [
  ...STATION_KINDS.map((kind) => ({
    kind: kind as string,
    words: thingWords(kind),
    list: props.things
      .filter((t) => t.kind === kind && !t.retired)
      .map((t): Present => ({
        id: t.id,
        label: t.label,
        isHere: (props.day.stations[kind] ?? []).includes(t.id),
        note: '',
      })),
  })),
  {
    kind: 'oven',
    words: thingWords('oven'),
    list: ovensOf(props.things).map(({ id, places }): Present => ({
      id,
      label: props.things.find((t) => t.id === id)!.label,
      isHere: props.day.ovens.some((o) => o.id === id),
      note:
        places.hanging + places.flat === 0
          ? 'no places set'
          : `${places.hanging} hanging, ${places.flat} flat`,
    })),
  },
  {
    kind: 'instructor',
    words: 'Instructors',
    list: props.detail.instructors.map((p): Present => ({
      id: p.id,
      label: p.name,
      isHere: props.day.instructors.includes(p.id),
      note: '',
    })),
  },
]);

const benches = computed(() => props.things.filter((t) => t.kind === 'bench' && !t.retired));
const planned = computed(() => {
  const inDay = new Set(props.day.pieces.map((p) => p.traineeId));
  return props.detail.trainees.filter((t) => inDay.has(t.id));
});
function setBench(traineeId: string, benchId: string): void {
  const { [traineeId]: _, ...rest } = props.day.benches;
  emit('change', { ...props.day, benches: benchId === '' ? rest : { ...rest, [traineeId]: benchId } });
}

const turned = (ids: readonly string[], id: string, all: readonly string[]): string[] =>
  all.filter((other) => (other === id ? !ids.includes(id) : ids.includes(other)));
function turn(kind: string, id: string): void {
  const all = groups.value.find((g) => g.kind === kind)!.list.map((p) => p.id);
  const { instructors, ovens, stations } = props.day;
  const next = { instructors, ovens, stations };
  if (kind === 'instructor') next.instructors = turned(instructors, id, all);
  else if (kind === 'oven') {
    const before = ovens.map((o) => o.id);
    const here = turned(before, id, all);
    next.ovens = ovensOf(props.things).filter((o) => here.includes(o.id));
  } else next.stations = { ...stations, [kind]: turned(stations[kind] ?? [], id, all) };
  emit('change', renumbered(props.day, next));
}
</script>

<template>
  <section class="part tools">
    <h2>Hours, people and equipment of this day</h2>
    <dl class="groups">
      <dt>Hours</dt>
      <dd>
        <span v-for="(span, i) in spans" :key="i" class="row span">
          <el-time-picker
            is-range
            size="large"
            format="HH:mm"
            value-format="HH:mm"
            :clearable="false"
            :model-value="span"
            range-separator="to"
            :aria-label="`Hours, part ${i + 1}`"
            @update:model-value="(v: [string, string] | null) => setSpan(i, v)"
          />
          <el-button
            v-if="spans.length > 1"
            size="large"
            text
            :aria-label="`Take part ${i + 1} out`"
            @click="removeSpan(i)"
            >Take out</el-button
          >
        </span>
        <el-button size="large" @click="addSpan">One more part</el-button>
        <p v-if="refused" class="notice bad" role="alert">{{ refused }}</p>
      </dd>
      <template v-for="g in groups" :key="g.kind">
        <dt>{{ g.words }}</dt>
        <dd>
          <el-button
            v-for="p in g.list"
            :key="p.id"
            size="large"
            :class="{ away: !p.isHere }"
            :aria-pressed="p.isHere"
            :title="p.isHere ? 'Take out of this day' : 'Put into this day'"
            @click="turn(g.kind, p.id)"
          >
            {{ p.label }}<span v-if="p.note" class="soft small note">{{ p.note }}</span
            ><span v-if="!p.isHere" class="soft small note">not here</span>
          </el-button>
          <span v-if="g.list.length === 0" class="soft">
            none:
            <RouterLink :to="{ name: 'setup', params: { classId: detail.id }, query: { view: 'equipment' } }"
              >enter them in Class, Equipment</RouterLink
            >
          </span>
        </dd>
      </template>
      <template v-if="planned.length > 0 && benches.length > 0">
        <dt>Benches</dt>
        <dd class="benches">
          <ChoiceField
            v-for="t in planned"
            :key="t.id"
            :model-value="day.benches[t.id] ?? ''"
            :label="t.name"
            none="any bench"
            :options="benches.map((b) => ({ value: b.id, label: b.label }))"
            @change="(id: string) => setBench(t.id, id)"
          />
        </dd>
      </template>
    </dl>
    <p class="soft small">
      What an oven holds and what is counted is set in
      <RouterLink :to="{ query: { view: 'stock' } }">Stock</RouterLink>. Ovens and connectors are hot after a
      load; wear eye protection where glass is cut; local rules and licensed practice go first.
    </p>
  </section>
</template>

<style scoped>
.part {
  margin-top: 22px;
}
.groups {
  display: grid;
  grid-template-columns: 120px 1fr;
  gap: 10px 14px;
  align-items: baseline;
}
dt {
  color: var(--ink-soft);
}
dd {
  margin: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
dd :deep(.el-button) {
  margin: 0;
}
.span :deep(.el-date-editor) {
  width: 240px;
}
.benches {
  gap: 8px 16px;
}
.note {
  margin-left: 6px;
}
.away {
  border-style: dashed;
  color: var(--ink-soft);
}
</style>
