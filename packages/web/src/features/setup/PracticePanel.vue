<script setup lang="ts">
import type { ClassPracticeOption } from '@clear-mark/contract';
import { DECIDED_ELSEWHERE } from '@clear-mark/methods/practice-options';
import { computed } from 'vue';
import { request, ROUTES } from '../../api/client.ts';
import { useAct, useReply } from '../../api/queries.ts';
import { useClassroom } from '../../classroom/use-classroom.ts';
import { offerUndo } from '../../shared/undo.ts';
import ChoiceField from '../../shared/ChoiceField.vue';

/** The questions on which practitioners disagree: what this class does, what ships, and why. */
const props = defineProps<{ classId: string }>();
const params = { id: props.classId };
const { found: options, failure: unread, put } = useReply(ROUTES.classPracticeOptions, () => ({ params }));
const { failure: unchanged, act } = useAct();
const failure = computed(() => unchanged.value ?? unread.value);
const classroom = useClassroom();

const choose = (practice: ClassPracticeOption, option: string): Promise<boolean> =>
  act(async () => {
    put(await request(ROUTES.choosePractice, { params, body: { practice: practice.id, option } }));
    classroom.renew();
    const before = practice.chosen;
    const label = practice.options.find((o) => o.id === option)?.label ?? '';
    offerUndo(`From now on: ${label}.`, () => choose({ ...practice, chosen: option }, before));
  });
const usual = (s: ClassPracticeOption): string => s.options.find((o) => o.id === s.default)?.label ?? '';
</script>

<template>
  <section class="section" data-test="practice">
    <h2>Where practitioners disagree</h2>
    <p class="soft">
      A choice holds for pieces started from now on; each sheet shows by which it was scored.
    </p>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <p v-if="options?.length === 0" class="soft">Choices appear with the methods in use.</p>
    <div v-for="s in options" :key="s.id" class="practice">
      <div class="question">
        <b>{{ s.question }}</b>
        <ChoiceField
          bare
          :label="s.question"
          :model-value="s.chosen"
          :options="s.options.map((o) => ({ value: o.id, label: o.label }))"
          @change="(option) => choose(s, option)"
        />
      </div>
      <p class="small soft">
        <template v-if="s.chosen === s.default">As shipped. </template
        ><template v-else>Shipped: {{ usual(s) }}. </template>{{ s.reason }}
        {{ s.methods.length === 1 ? s.methods[0] : `${s.methods.length} methods in use` }}.
      </p>
    </div>
    <details>
      <summary>Decided elsewhere</summary>
      <dl>
        <template v-for="d in DECIDED_ELSEWHERE" :key="d.question">
          <dt>{{ d.question }}</dt>
          <dd class="soft">{{ d.answer }}</dd>
        </template>
      </dl>
    </details>
  </section>
</template>

<style scoped>
.practice {
  border-top: 1px solid var(--hair);
  padding: 8px 0;
}
.question {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 16px;
  flex-wrap: wrap;
}
dt {
  font-weight: 700;
  margin-top: 8px;
}
dd {
  margin: 0;
}
</style>
