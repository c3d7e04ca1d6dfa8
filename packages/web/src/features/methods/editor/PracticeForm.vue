<script setup lang="ts">
import type { Criterion, MethodSheet, PracticeAlternative, PracticeOption } from '@clear-mark/core';
import { computed, reactive, ref } from 'vue';
import ChoiceField from '../../../shared/ChoiceField.vue';
import BandFields from './BandFields.vue';
import { spliced } from './draft-edit.model.ts';
import {
  addPractice,
  CHANGE_KINDS,
  type ChangeKind,
  changeOf,
  changePractice,
  changeWords,
  newAlternative,
  removePractice,
} from './practice-edit.model.ts';

/** Questions on which a class decides: what each option changes on the sheet, and which one ships. */
const props = defineProps<{ sheet: MethodSheet }>();
const emit = defineEmits<{ typed: [sheet: MethodSheet]; act: [sheet: MethodSheet] }>();
const criteria = computed(() =>
  props.sheet.steps.flatMap((s) => s.criteria.map((c) => ({ value: c.id, label: c.label, criterion: c }))),
);
const typed = (at: number, practice: PracticeOption): void =>
  emit('typed', changePractice(props.sheet, at, practice));
const act = (at: number, practice: PracticeOption): void =>
  emit('act', changePractice(props.sheet, at, practice));
const withOption = (
  practice: PracticeOption,
  i: number,
  more: Partial<PracticeAlternative>,
): PracticeOption => ({
  ...practice,
  options: spliced(practice.options, i, 1, { ...practice.options[i]!, ...more }),
});

/** The question that is open: only its fields are made, since a method can have a dozen with all criteria to choose from. */
const shown = ref('');
/** What is chosen beside each option to be added. */
const adding = reactive<Record<string, { kind: ChangeKind; criterion: string }>>({});
const addingTo = (practice: PracticeOption, option: PracticeAlternative) =>
  (adding[`${practice.id} ${option.id}`] ??= {
    kind: 'leave_out',
    criterion: criteria.value[0]?.value ?? '',
  });
/** Limits can be others only where there are some. */
const offered = (kind: ChangeKind) => criteria.value.filter((c) => kind !== 'band' || 'band' in c.criterion);
function add(at: number, practice: PracticeOption, i: number): void {
  const option = practice.options[i]!;
  const { kind, criterion } = addingTo(practice, option);
  const on = offered(kind).find((c) => c.value === criterion) ?? offered(kind)[0];
  const change = on ? changeOf(kind, on.criterion) : null;
  if (change) act(at, withOption(practice, i, { changes: [...option.changes, change] }));
}
const criterionOf = (id: string): Criterion | undefined =>
  criteria.value.find((c) => c.value === id)?.criterion;
const unitOf = (id: string): string => {
  const on = criterionOf(id);
  return on && 'unit' in on ? on.unit : '';
};
</script>

<template>
  <fieldset class="practices" data-test="practices">
    <legend>Practice options, which a class chooses among</legend>
    <el-collapse v-model="shown" accordion>
      <el-collapse-item
        v-for="(practice, at) in sheet.schools ?? []"
        :key="practice.id"
        :name="practice.id"
        :title="practice.question || 'A question without words'"
      >
        <template v-if="shown === practice.id">
          <el-form-item label="Question">
            <el-input
              :model-value="practice.question"
              :aria-label="`Question ${at + 1}`"
              maxlength="200"
              @input="(question: string) => typed(at, { ...practice, question })"
            />
          </el-form-item>
          <el-form-item label="Why the usual one is usual">
            <el-input
              :model-value="practice.reason"
              :aria-label="`Reason of question ${at + 1}`"
              maxlength="500"
              @input="(reason: string) => typed(at, { ...practice, reason })"
            />
          </el-form-item>
          <ChoiceField
            label="The usual one"
            :model-value="practice.default"
            :options="
              practice.options.map((o) => ({ value: o.id, label: o.label || 'an option without words' }))
            "
            @change="(id) => act(at, { ...practice, default: id })"
          />
          <div v-for="(option, i) in practice.options" :key="option.id" class="option">
            <el-input
              :model-value="option.label"
              :aria-label="`Option ${i + 1} of question ${at + 1}`"
              placeholder="what this option is called"
              maxlength="120"
              @input="(label: string) => typed(at, withOption(practice, i, { label }))"
            />
            <ul v-if="option.changes.length > 0">
              <li v-for="(change, k) in option.changes" :key="k">
                <span>{{ changeWords(change, sheet) }}</span>
                <el-button
                  size="large"
                  text
                  :aria-label="`Remove: ${changeWords(change, sheet)}`"
                  @click="act(at, withOption(practice, i, { changes: spliced(option.changes, k, 1) }))"
                  >Remove</el-button
                >
                <BandFields
                  v-if="change.change === 'band' && criterionOf(change.criterion)"
                  :band="change.band"
                  :unit="unitOf(change.criterion)"
                  :source="criterionOf(change.criterion)!.source"
                  @change="
                    (band) =>
                      typed(
                        at,
                        withOption(practice, i, {
                          changes: spliced(option.changes, k, 1, { ...change, band }),
                        }),
                      )
                  "
                />
              </li>
            </ul>
            <p v-else class="soft small">Changes nothing: the sheet as it is written.</p>
            <div class="row add">
              <ChoiceField
                v-model="addingTo(practice, option).kind"
                bare
                :label="`What option ${i + 1} changes`"
                :options="CHANGE_KINDS"
              />
              <ChoiceField
                v-model="addingTo(practice, option).criterion"
                bare
                :label="`Criterion that option ${i + 1} changes`"
                :options="offered(addingTo(practice, option).kind)"
              />
              <el-button size="large" :disabled="criteria.length === 0" @click="add(at, practice, i)"
                >Add the change</el-button
              >
            </div>
          </div>
          <div class="row">
            <el-button
              size="large"
              @click="act(at, { ...practice, options: [...practice.options, newAlternative(practice)] })"
              >Add an option</el-button
            >
            <el-button size="large" text @click="emit('act', removePractice(sheet, at))"
              >Remove the question</el-button
            >
          </div>
        </template>
      </el-collapse-item>
    </el-collapse>
    <el-button size="large" class="more" @click="emit('act', addPractice(sheet))">Add a question</el-button>
  </fieldset>
</template>

<style scoped>
.practices {
  margin: 0 0 16px;
  padding: 8px 0 0;
  border: 0;
  border-top: 1px solid var(--hair);
}
legend {
  padding: 0 8px 0 0;
  color: var(--ink-soft);
}
.option {
  border-left: 3px solid var(--hair-strong);
  padding: 0 0 4px 12px;
  margin: 12px 0;
}
ul {
  list-style: none;
  margin: 4px 0;
  padding: 0;
}
li {
  padding: 2px 0;
}
.add {
  flex-wrap: wrap;
}
.more {
  margin-top: 8px;
}
</style>
