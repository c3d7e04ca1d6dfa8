<script setup lang="ts">
import type { ClassDetail, DayMethod, DayPlanBody, StockThing } from '@clear-mark/contract';
import { DEFAULT_POLICY, plannedPieces } from '@clear-mark/core';
import { v7 } from 'uuid';
import { computed, ref } from 'vue';
import { askOnce } from '../../../api/queries.ts';
import { ROUTES, wordsOf } from '../../../api/client.ts';
import ChoiceField from '../../../shared/ChoiceField.vue';
import NumberField from '../../../shared/NumberField.vue';
import {
  goodUntilOf,
  leftOfCourse,
  lotsOf,
  methodForSkill,
  type Pace,
  stepsFor,
  timingOf,
  withoutPieces,
} from './day-draft.model.ts';

/** The pieces that are wanted on a day: by method, for whom and how many. */
const props = defineProps<{
  classId: string;
  day: DayPlanBody;
  methods: readonly DayMethod[];
  trainees: ClassDetail['trainees'];
  things: readonly StockThing[];
}>();
const emit = defineEmits<{ change: [day: DayPlanBody] }>();
const versionId = ref(props.methods[0]?.versionId ?? '');
const chosen = ref<string[]>(props.trainees.map((t) => t.id));
const each = ref(1);
const pace = ref<Pace>('median');
const failure = ref<string | null>(null);
const nothing = ref('');
const lots = computed(() => lotsOf(props.things));

interface Line {
  readonly key: string;
  readonly method: DayMethod | null;
  readonly title: string;
  readonly pieces: number;
  readonly trainees: number;
  readonly minutes: string;
  readonly timedBy: string;
}
const lines = computed((): Line[] => {
  const versions = [...new Set(props.day.pieces.map((p) => p.methodVersionId))];
  return versions.map((id) => {
    const own = props.day.pieces.filter((p) => p.methodVersionId === id);
    const method = props.methods.find((m) => m.versionId === id) ?? null;
    const minutes = own.map((p) => p.steps.reduce((sum, s) => sum + s.minutes, 0));
    const least = Math.min(...minutes);
    const most = Math.max(...minutes);
    const by = new Set(method ? own.map((p) => timingOf(method, p.traineeId).of) : []);
    const own3 = by.has('trainee') ? ['their own pieces'] : [];
    const words = [
      ...own3,
      ...(by.has('class') ? ['the class’s'] : []),
      ...(by.has('house') ? ['the method’s steps'] : []),
    ];
    return {
      key: id,
      method,
      title: method?.title ?? 'A method that is not in use any more',
      pieces: own.length,
      trainees: new Set(own.map((p) => p.traineeId)).size,
      minutes: least === most ? `${least}` : `${least} to ${most}`,
      timedBy: words.join(', '),
    };
  });
});

function added(wanted: readonly { method: DayMethod; traineeId: string; count: number }[]): DayPlanBody {
  const pieces = wanted.flatMap(({ method, traineeId, count }) =>
    Array.from({ length: count }, () => ({
      id: v7(),
      traineeId,
      methodVersionId: method.versionId,
      steps: stepsFor(method, traineeId, pace.value, goodUntilOf(method, lots.value, props.day)),
    })),
  );
  const plan = props.day.plan && {
    ...props.day.plan,
    left: [...props.day.plan.left, ...pieces.map((p) => p.id)],
  };
  return { ...props.day, pieces: [...props.day.pieces, ...pieces], plan };
}
function add(): void {
  const method = props.methods.find((m) => m.versionId === versionId.value);
  if (!method) return;
  emit('change', added(chosen.value.map((traineeId) => ({ method, traineeId, count: each.value }))));
}
async function fromRetraining(): Promise<void> {
  failure.value = null;
  try {
    const { items } = await askOnce(ROUTES.plan, { params: { id: props.classId } });
    const wanted = items
      .filter((i) => i.closedAt === null)
      .flatMap((i) => {
        const method = methodForSkill(props.methods, i.skill);
        const count = i.pieces ?? plannedPieces(i.standing, i.window, DEFAULT_POLICY).pieces;
        return method ? [{ method, traineeId: i.traineeId, count: Math.min(count, 20) }] : [];
      });
    nothing.value = wanted.length === 0 ? 'Nobody needs retraining.' : '';
    if (wanted.length > 0) emit('change', added(wanted));
  } catch (error) {
    failure.value = wordsOf(error);
  }
}
/** What each trainee has left of the course, at most as many of each method as are said. */
async function fromCourse(): Promise<void> {
  failure.value = null;
  try {
    const course = await askOnce(ROUTES.course, { params: { id: props.classId } });
    const wanted = leftOfCourse(course, props.methods, props.day, chosen.value, each.value);
    const isSaid = course.some((m) => (m.pieces ?? 0) > 0);
    nothing.value =
      wanted.length > 0
        ? ''
        : isSaid
          ? 'These trainees have made or have planned all that the course asks for.'
          : 'Nobody has said yet what each trainee makes in the course: Course and shopping, Good pieces each.';
    if (wanted.length > 0) emit('change', added(wanted));
  } catch (error) {
    failure.value = wordsOf(error);
  }
}
function remove(versionIdGone: string): void {
  emit(
    'change',
    withoutPieces(props.day, (p) => p.methodVersionId === versionIdGone),
  );
}
</script>

<template>
  <section class="part tools">
    <h2>Pieces wanted</h2>
    <el-table v-if="lines.length > 0" :data="lines" row-key="key" size="large" data-test="wanted">
      <el-table-column prop="title" label="Method" min-width="260" />
      <el-table-column prop="pieces" label="Pieces" width="90" align="right" />
      <el-table-column prop="trainees" label="Trainees" width="100" align="right" />
      <el-table-column prop="minutes" label="Minutes each" width="140" align="right" />
      <el-table-column prop="timedBy" label="Minutes by" min-width="180" />
      <el-table-column width="130" align="right">
        <template #default="{ row }: { row: Line }">
          <el-button size="large" @click="remove(row.key)">Take out</el-button>
        </template>
      </el-table-column>
    </el-table>
    <p v-else class="soft">Nothing yet: choose a method, for whom, and how many pieces each.</p>
    <div class="row add">
      <ChoiceField
        v-model="versionId"
        label="Method"
        :options="methods.map((m) => ({ value: m.versionId, label: m.title }))"
        data-test="method"
      />
      <div class="field">
        <label class="soft" for="day-trainees">For</label>
        <el-select
          id="day-trainees"
          v-model="chosen"
          class="who"
          size="large"
          multiple
          collapse-tags
          collapse-tags-tooltip
          placeholder="nobody"
        >
          <el-option v-for="t in trainees" :key="t.id" :value="t.id" :label="t.name" />
        </el-select>
      </div>
      <NumberField
        :model-value="each"
        label="Pieces each"
        whole
        :min="1"
        :max="20"
        :none="1"
        @change="each = $event"
      />
      <ChoiceField
        v-model="pace"
        label="Planned with"
        :options="[
          { value: 'median', label: 'their middle time' },
          { value: 'slow', label: 'their slower quarter' },
        ]"
      />
      <el-button
        size="large"
        type="primary"
        :disabled="chosen.length === 0"
        data-test="add-pieces"
        @click="add"
        >Add</el-button
      >
      <el-button size="large" :disabled="chosen.length === 0" data-test="from-course" @click="fromCourse"
        >What the course asks for</el-button
      >
      <el-button size="large" @click="fromRetraining">What retraining asks for</el-button>
    </div>
    <p v-if="nothing" class="soft" role="status">{{ nothing }}</p>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
  </section>
</template>

<style scoped>
.part {
  margin-top: 22px;
}
.add {
  align-items: flex-end;
  margin-top: 8px;
}
.add :deep(.el-form-item) {
  margin-bottom: 0;
  display: block;
}
.who {
  width: 250px;
}
</style>
