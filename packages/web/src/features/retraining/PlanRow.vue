<script setup lang="ts">
import type { Plan, PlanItemBody } from '@clear-mark/contract';
import type { EvidenceCode } from '@clear-mark/core';
import { aheadWords, evidenceWords, skillInText, STANDING_WORDS } from '@clear-mark/words';
import { computed, ref, watch } from 'vue';
import { editOf, type PlannedItem, typedWhole } from './plan.model.ts';
import ChoiceField from '../../shared/ChoiceField.vue';
import { momentWords } from '../../shared/time-words.ts';

const props = defineProps<{
  classId: string;
  item: PlannedItem;
  wanted: number;
  sessions: Plan['sessions'];
}>();
const emit = defineEmits<{ change: [body: PlanItemBody] }>();
const editing = ref(false);
const pieces = ref('');
const minutes = ref('');
const drill = ref('');
watch(
  editing,
  () => {
    pieces.value = String(props.item.pieces ?? '');
    minutes.value = String(props.item.minutes ?? '');
    drill.value = props.item.drill ?? '';
  },
  { immediate: true },
);
const problem = computed(() =>
  typedWhole(pieces.value, 500) === undefined || typedWhole(minutes.value, 10_000) === undefined
    ? 'Pieces and minutes are whole numbers from 1.'
    : null,
);
function keep(): void {
  if (problem.value) return;
  emit('change', {
    ...editOf(props.item),
    pieces: typedWhole(pieces.value, 500) ?? null,
    minutes: typedWhole(minutes.value, 10_000) ?? null,
    drill: drill.value.trim() === '' ? null : drill.value.trim(),
  });
  editing.value = false;
}
function assign(id: string): void {
  emit('change', { ...editOf(props.item), sessionId: id === '' ? null : id });
}
</script>

<template>
  <li class="item" :data-plan="item.traineeName" :data-skill="item.skill">
    <div class="who">
      <RouterLink
        class="name"
        :to="{ name: 'evidence', params: { classId, traineeId: item.traineeId, skill: item.skill } }"
        >{{ item.traineeName }}: {{ skillInText(item.skill) }}</RouterLink
      >
      <p>
        <b>{{ STANDING_WORDS[item.standing] }}.</b>
        {{ evidenceWords(item.evidence.code as EvidenceCode, item.evidence.params) }}
        <template v-if="item.behind">Step: “{{ item.behind.stepTitle }}”.</template>
        <template v-if="item.reopened > 0">
          Opened again {{ item.reopened === 1 ? 'once' : `${item.reopened} times` }}.</template
        >
      </p>
      <p><b>{{ item.drillShown.title }}.</b> <span class="soft">{{ item.drillShown.how }}</span></p>
      <p class="soft small">
        {{ aheadWords(item.ahead, wanted)
        }}<template v-if="item.firstRound">
          A first round of {{ item.piecesShown }}, then look again.</template
        >
      </p>
    </div>
    <dl>
      <div>
        <dt>pieces</dt>
        <dd class="figure">{{ item.piecesShown }}</dd>
      </div>
      <div>
        <dt>bench, min</dt>
        <dd class="figure">{{ item.minutesShown }}</dd>
      </div>
    </dl>
    <div class="tools">
      <ChoiceField
        bare
        none="no session"
        :label="`Session of ${item.traineeName}, ${skillInText(item.skill)}`"
        :model-value="item.sessionId ?? ''"
        :options="sessions.map((s) => ({ value: s.id, label: momentWords(s.startsAt, 'planned') }))"
        @change="assign"
      />
      <el-button size="large" text :aria-expanded="editing" @click="editing = !editing"> Change </el-button>
    </div>
    <form v-if="editing" class="row edit" @submit.prevent="keep">
      <label class="field"
        ><span>Pieces</span><el-input v-model="pieces" inputmode="numeric" name="pieces"
      /></label>
      <label class="field"
        ><span>Bench minutes</span><el-input v-model="minutes" inputmode="numeric" name="minutes"
      /></label>
      <label class="field grow"
        ><span>Drill, in your words</span><el-input v-model="drill" maxlength="500" name="drill"
      /></label>
      <el-button size="large" type="primary" native-type="submit" :disabled="problem !== null"
        >Save</el-button
      >
      <p v-if="problem" class="notice bad" role="alert">{{ problem }}</p>
      <p class="soft small whole">What is left empty follows the evidence.</p>
    </form>
  </li>
</template>

<style scoped>
.item {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto 276px;
  gap: 8px 20px;
  align-items: start;
  border-bottom: 1px solid var(--hair);
  padding: 10px 0;
  break-inside: avoid;
}
.name {
  font-weight: 700;
  font-size: 1.0625rem;
}
dl {
  display: flex;
  gap: 18px;
  margin: 0;
}
dt {
  font-size: 0.875rem;
  color: var(--ink-soft);
}
dd {
  margin: 0;
}
.tools {
  display: flex;
  gap: 6px;
}
.tools :deep(.choice) {
  max-width: 196px;
}
.edit {
  grid-column: 1 / -1;
  align-items: flex-end;
}
.grow {
  flex: 1;
  min-width: 240px;
}
.whole {
  flex-basis: 100%;
}
@media (max-width: 800px) {
  .item {
    grid-template-columns: minmax(0, 1fr) auto;
  }
}
@media print {
  .tools,
  .edit {
    display: none;
  }
}
</style>
