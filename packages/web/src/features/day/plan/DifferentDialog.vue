<script setup lang="ts">
import type { ClassDetail, DayPlanBody } from '@clear-mark/contract';
import { minuteOf } from '@clear-mark/core';
import { computed, ref } from 'vue';
import ChoiceField from '../../../shared/ChoiceField.vue';
import NumberField from '../../../shared/NumberField.vue';
import { instantAt, wallTime } from '../../../shared/wall-time.ts';
import type { FromNow } from './day-draft.model.ts';

/** What came differently: who is away, what is broken, who is late. From then on the day is planned again, with as little moved as can be. */
const props = defineProps<{
  day: DayPlanBody;
  detail: ClassDetail;
  /** Now as a minute of the day; null on another day. */
  minute: number | null;
  clock: (minute: number) => string;
  /** Who is behind as their open pieces stand, in minutes. */
  behind: ReadonlyMap<string, number>;
}>();
const emit = defineEmits<{ close: []; replan: [day: DayPlanBody, from: FromNow] }>();
const ends = computed(() => minuteOf(props.day, props.day.hours.at(-1)!.to));
const at = ref(wallTime(props.day.hours[0]!.from).slice(11));
if (props.minute !== null) at.value = props.clock(props.minute);
const date = wallTime(props.day.hours[0]!.from).slice(0, 10);
const from = computed(() => minuteOf(props.day, instantAt(`${date}T${at.value}`)));
const refused = computed(() =>
  from.value < 0 || from.value >= ends.value ? 'That is not within the hours of this day.' : '',
);

const options = computed(() => {
  const label = (id: string): string => props.detail.things.find((t) => t.id === id)?.label ?? '';
  const isIn = new Set(props.day.pieces.map((p) => p.traineeId));
  return [
    ...props.detail.trainees
      .filter((t) => isIn.has(t.id))
      .map((t) => ({ value: `trainee ${t.id}`, label: t.name })),
    ...Object.entries(props.day.stations).flatMap(([kind, ids]) =>
      ids.map((id, i) => ({ value: `station ${kind} ${i + 1}`, label: label(id) })),
    ),
    ...props.day.ovens.map((o) => ({ value: `oven ${o.id}`, label: label(o.id) })),
    ...props.day.instructors.map((id, i) => ({
      value: `instructor ${i + 1}`,
      label: props.detail.instructors.find((p) => p.id === id)?.name ?? '',
    })),
  ];
});
const trainees = computed(() =>
  options.value
    .filter((o) => o.value.startsWith('trainee '))
    .map((o) => ({ ...o, value: o.value.slice('trainee '.length) })),
);
const away = ref<string[]>([]);
const late = ref([...props.behind].map(([who, minutes]) => ({ who, minutes })));
const isRead = props.behind.size > 0;

type Of = DayPlanBody['away'][number]['of'];
function ofValue(value: string): Of {
  const parts = value.split(' ');
  const id = parts[1]!;
  if (parts[0] === 'trainee') return { kind: 'trainee', id };
  if (parts[0] === 'oven') return { kind: 'oven', id };
  if (parts[0] === 'instructor') return { kind: 'instructor', unit: Number(id) };
  return { kind: 'station', id, unit: Number(parts[2]) };
}
function send(): void {
  if (refused.value) return;
  const gone = away.value.map((value) => ({ from: from.value, to: ends.value, of: ofValue(value) }));
  const lateBy = new Map(late.value.filter((l) => l.who !== '').map((l) => [l.who, l.minutes] as const));
  emit('replan', { ...props.day, away: [...props.day.away, ...gone] }, { minute: from.value, lateBy });
}
const said = (a: DayPlanBody['away'][number]): string => {
  const value =
    a.of.kind === 'station'
      ? `station ${a.of.id} ${a.of.unit}`
      : a.of.kind === 'instructor'
        ? `instructor ${a.of.unit}`
        : `${a.of.kind} ${a.of.id}`;
  return options.value.find((o) => o.value === value)?.label ?? value;
};
const back = (i: number): void =>
  emit(
    'replan',
    { ...props.day, away: props.day.away.filter((_, k) => k !== i) },
    { minute: from.value, lateBy: new Map() },
  );
</script>

<template>
  <el-dialog
    :model-value="true"
    title="It came differently"
    width="600"
    append-to-body
    @close="emit('close')"
  >
    <p class="soft">
      What was begun before then stays. The rest keeps its order and its places and moves only where it has
      to.
    </p>
    <el-form label-position="top" size="large" @submit.prevent="send">
      <el-form-item label="From" :error="refused">
        <el-time-picker v-model="at" format="HH:mm" value-format="HH:mm" :clearable="false" />
      </el-form-item>
      <el-form-item label="Who or what is away from then on">
        <el-select
          v-model="away"
          multiple
          filterable
          placeholder="nobody and nothing"
          aria-label="Who or what is away"
          data-test="away-choice"
        >
          <el-option v-for="o in options" :key="o.value" :value="o.value" :label="o.label" />
        </el-select>
      </el-form-item>
    </el-form>
    <p v-if="isRead" class="soft">Who is behind was read from the open pieces; put right what is not so.</p>
    <div v-for="(l, i) in late" :key="i" class="row late" data-test="late">
      <ChoiceField v-model="l.who" label="Who is behind" none="nobody" :options="trainees" />
      <NumberField
        :model-value="l.minutes"
        label="By minutes"
        whole
        :min="1"
        :max="480"
        @change="l.minutes = $event"
      />
      <el-button size="large" @click="late.splice(i, 1)">Is not behind</el-button>
    </div>
    <el-button size="large" data-test="add-late" @click="late.push({ who: '', minutes: 15 })"
      >Somebody is behind</el-button
    >
    <ul v-if="day.away.length > 0" class="away">
      <li v-for="(a, i) in day.away" :key="i" class="row">
        {{ said(a) }} is away from {{ clock(a.from) }} to {{ clock(a.to) }}
        <el-button size="large" @click="back(i)">Is back</el-button>
      </li>
    </ul>
    <template #footer>
      <el-button size="large" @click="emit('close')">Cancel</el-button>
      <el-button size="large" type="primary" :disabled="refused !== ''" data-test="replan" @click="send"
        >Plan again from then</el-button
      >
    </template>
  </el-dialog>
</template>

<style scoped>
.late {
  align-items: flex-end;
}
.late :deep(.el-form-item) {
  display: block;
  margin: 0;
}
.away {
  list-style: none;
  padding: 0;
}
</style>
