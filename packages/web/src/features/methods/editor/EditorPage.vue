<script setup lang="ts">
import {
  type Criterion,
  CRITERION_KINDS,
  type CriterionKind,
  type MethodSheet,
  sheetProblems,
  type Step,
} from '@clear-mark/core';
import { useEventListener } from '@vueuse/core';
import { ElMessageBox } from 'element-plus';
import { computed, onMounted, ref } from 'vue';
import { onBeforeRouteLeave, useRouter } from 'vue-router';
import { request, ROUTES } from '../../../api/client.ts';
import { classChanged, useAct } from '../../../api/queries.ts';
import { useClassroom } from '../../../classroom/use-classroom.ts';
import ActMenu from '../../../shared/ActMenu.vue';
import { TrySheet } from '../../sheet/index.ts';
import CriterionForm from './CriterionForm.vue';
import DraftHead from './DraftHead.vue';
import {
  addCriterion,
  addStep,
  changeCriterion,
  changeStep,
  CRITERION_KIND_WORDS,
  heldTarget,
  moveBy,
  moveCriterion,
  moveStep,
  removeCriterion,
  removeStep,
  type Target,
} from './draft-edit.model.ts';
import MethodForm from './MethodForm.vue';
import StepForm from './StepForm.vue';
import StepOutline from './StepOutline.vue';
import { useDraft } from './use-draft.ts';

const KINDS = CRITERION_KINDS.map((value) => ({ value, label: CRITERION_KIND_WORDS[value] }));
const props = defineProps<{ classId: string; draftId: string }>();
const router = useRouter();
const classroom = useClassroom();
const draft = useDraft(props.draftId);
const { failure: notPublished, busy, act } = useAct();
const wanted = ref<Target>({ on: 'method' });
const target = computed<Target>(() =>
  draft.sheet.value ? heldTarget(draft.sheet.value, wanted.value) : { on: 'method' },
);
const step = computed(() => {
  const now = target.value;
  return now.on === 'method' ? null : (draft.sheet.value?.steps.find((s) => s.id === now.step) ?? null);
});
const criterion = computed(() => {
  const now = target.value;
  return now.on === 'criterion' ? (step.value?.criteria.find((c) => c.id === now.criterion) ?? null) : null;
});
/** The last state that can be scored: what is half typed leaves the sheet beside it as it was. */
const sound = computed<MethodSheet | null>((last) => {
  const sheet = draft.sheet.value;
  return sheet && sheetProblems(sheet).length === 0 ? sheet : (last ?? null);
});
const problemCounts = computed(() => {
  const counts = new Map<string, number>();
  for (const p of draft.left.value) {
    const id = p.criterion ?? p.step ?? '';
    counts.set(id, (counts.get(id) ?? 0) + 1);
  }
  return counts;
});
function jump(at: { readonly step: string | null; readonly criterion: string | null }): void {
  if (at.step === null) wanted.value = { on: 'method' };
  else if (at.criterion === null) wanted.value = { on: 'step', step: at.step };
  else wanted.value = { on: 'criterion', step: at.step, criterion: at.criterion };
}
function chooseCriterion(id: string): void {
  const home = draft.sheet.value?.steps.find((s) => s.criteria.some((c) => c.id === id));
  if (home) wanted.value = { on: 'criterion', step: home.id, criterion: id };
}

const setStep = (next: Step, how: 'typed' | 'act'): void =>
  draft.edit((sheet) => changeStep(sheet, next.id, () => next), how);
const setCriterion = (next: Criterion, how: 'typed' | 'act'): void =>
  draft.edit((sheet) => changeCriterion(sheet, step.value!.id, next.id, () => next), how);
function newStep(): void {
  const made = addStep(draft.sheet.value!, step.value?.id ?? null);
  draft.edit(() => made.sheet, 'act');
  wanted.value = { on: 'step', step: made.step };
}
function newCriterion(kind: CriterionKind): void {
  const home = step.value!.id;
  const made = addCriterion(draft.sheet.value!, home, kind, criterion.value?.id ?? null);
  draft.edit(() => made.sheet, 'act');
  wanted.value = { on: 'criterion', step: home, criterion: made.criterion };
}
function shift(by: 1 | -1): void {
  const now = moveBy(draft.sheet.value!, target.value, by);
  draft.edit(() => now.sheet, 'act');
  wanted.value = now.target;
}
function remove(): void {
  const now = target.value;
  if (now.on === 'step') draft.edit((sheet) => removeStep(sheet, now.step), 'act');
  if (now.on === 'criterion') draft.edit((sheet) => removeCriterion(sheet, now.step, now.criterion), 'act');
}

async function publish(): Promise<void> {
  await draft.save();
  if (draft.state.value !== 'saved') return;
  const { version } = draft.draft.value!;
  const words =
    version === 1
      ? 'It is used in this class from now on, and never changes: what you change later is a new version.'
      : 'Classes that use an earlier version go on with this one. Pieces that are open stay on the version that they were begun by.';
  const sure = await ElMessageBox.confirm(words, 'Publish this version?', {
    confirmButtonText: 'Publish',
    cancelButtonText: 'Cancel',
  }).catch(() => null);
  if (sure === null) return;
  const done = await act(async () => {
    const made = await request(ROUTES.publishDraft, {
      params: { id: props.draftId },
      body: { revision: draft.draft.value!.revision, classId: props.classId },
    });
    classChanged(props.classId);
    classroom.renew();
    await router.push({ name: 'method', params: { classId: props.classId, versionId: made.id } });
  });
  if (!done) await draft.load();
}
async function discard(): Promise<void> {
  const sure = await ElMessageBox.confirm('What was written in it is gone.', 'Discard this draft?', {
    confirmButtonText: 'Discard',
    cancelButtonText: 'Cancel',
  }).catch(() => null);
  if (sure === null) return;
  await act(async () => {
    await request(ROUTES.discardDraft, { params: { id: props.draftId } });
    await router.push({ name: 'setup', params: { classId: props.classId }, query: { view: 'methods' } });
  });
}

/** Undo and redo of the draft; inside of a text field the field's own are left to it. */
useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  const inText = (event.target as HTMLElement | null)?.matches('input, textarea') ?? false;
  if (!(event.ctrlKey || event.metaKey) || inText) return;
  const key = event.key.toLowerCase();
  if (key === 'z' && !event.shiftKey) draft.undo();
  else if (key === 'y' || (key === 'z' && event.shiftKey)) draft.redo();
  else return;
  event.preventDefault();
});
onBeforeRouteLeave(() => draft.save());
onMounted(draft.load);
</script>

<template>
  <div class="page editor">
    <p v-if="draft.failure.value" class="notice bad" role="alert">
      {{ draft.failure.value }}
      <el-button v-if="draft.clash.value" size="large" @click="draft.load()">Load theirs</el-button>
    </p>
    <p v-if="notPublished" class="notice bad" role="alert">{{ notPublished }}</p>
    <template v-if="draft.sheet.value">
      <DraftHead
        :draft="draft"
        :class-id="classId"
        :busy="busy"
        @publish="publish"
        @discard="discard"
        @jump="jump"
      />
      <div class="columns">
        <StepOutline
          class="column"
          :sheet="draft.sheet.value"
          :target="target"
          :problems="problemCounts"
          @choose="wanted = $event"
          @move-step="(from, to) => draft.edit((s) => moveStep(s, from, to), 'act')"
          @move-criterion="(from, to) => draft.edit((s) => moveCriterion(s, from, to), 'act')"
          @move-by="shift"
          @add-step="newStep"
        />
        <section class="column form" aria-label="What is chosen">
          <div v-if="step" class="row tools">
            <ActMenu
              label="Add a criterion"
              :name="`Add a criterion to ${step.title}`"
              :acts="KINDS"
              @choose="newCriterion"
            />
            <el-button size="large" title="Alt and the arrow up" @click="shift(-1)">Up</el-button>
            <el-button size="large" title="Alt and the arrow down" @click="shift(1)">Down</el-button>
            <el-button size="large" @click="remove">Remove</el-button>
          </div>
          <CriterionForm
            v-if="criterion && step"
            :key="criterion.id"
            :criterion="criterion"
            :step="step"
            :sheet="draft.sheet.value"
            @typed="setCriterion($event, 'typed')"
            @act="setCriterion($event, 'act')"
          />
          <StepForm
            v-else-if="step"
            :key="step.id"
            :step="step"
            @typed="setStep($event, 'typed')"
            @act="setStep($event, 'act')"
          />
          <MethodForm
            v-else
            :sheet="draft.sheet.value"
            @typed="(next) => draft.edit(() => next, 'typed')"
            @act="(next) => draft.edit(() => next, 'act')"
          />
        </section>
        <div class="column sheet">
          <p v-if="sound && sound !== draft.sheet.value" class="notice">
            As it was before the last change: what is written now cannot be scored yet.
          </p>
          <TrySheet v-if="sound" :sheet="sound" :at="criterion?.id ?? null" @choose="chooseCriterion" />
          <p v-else class="notice">
            The sheet is shown here as soon as it has a criterion that can be scored.
          </p>
        </div>
      </div>
    </template>
  </div>
</template>

<style scoped>
.editor {
  display: flex;
  flex-direction: column;
  max-width: none;
  height: 100%;
  padding: 12px 20px 0;
}
.columns {
  display: grid;
  grid-template-columns: 270px minmax(320px, 400px) minmax(0, 1fr);
  gap: 16px;
  flex: 1;
  min-height: 0;
  margin-top: 8px;
}
.column {
  overflow-y: auto;
  min-width: 0;
  padding-bottom: 24px;
}
.form {
  padding: 2px 6px 24px 2px;
}
.form :deep(.el-form-item__label),
.form :deep(legend) {
  margin-bottom: 2px;
  color: var(--ink-soft);
  line-height: 1.35;
}
.tools {
  gap: 8px;
  margin-bottom: 10px;
}
.tools :deep(.el-button) {
  margin: 0;
}
@media (max-width: 1100px) {
  .editor {
    height: auto;
  }
  .columns {
    grid-template-columns: 250px minmax(0, 1fr);
  }
  .sheet {
    grid-column: 1 / -1;
  }
  .column {
    overflow: visible;
  }
}
@media (max-width: 700px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
