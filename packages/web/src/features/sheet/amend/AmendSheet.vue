<script setup lang="ts">
import type { AttemptDocument } from '@clear-mark/contract';
import { reasonWords, VERDICT_WORDS } from '@clear-mark/words';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import ChosenRow from './ChosenRow.vue';
import { request, ROUTES } from '../../../api/client.ts';
import { useAct } from '../../../api/queries.ts';
import { momentWords } from '../../../shared/time-words.ts';
import VerdictRing from '../../../shared/VerdictRing.vue';
import { entryWords } from '../entry-words.ts';
import LocalRows from '../LocalRows.vue';
import { listCriteria } from '../sheet.model.ts';
import { asSent } from './amendment.model.ts';
import { useAmendment } from './use-amendment.ts';

/** The sheet as it was signed, to be put right; beside it what that changes, what came late, and the reason. */
const props = defineProps<{ classId: string; document: AttemptDocument }>();
const emit = defineEmits<{ moved: [] }>();
const router = useRouter();
const amendment = useAmendment(computed(() => props.document));
const { failure, busy, act } = useAct();
const at = ref<string | null>(null);
const reason = ref('');
const last = computed(() => props.document.revisions.at(-1)!);
const labels = computed(
  () => new Map(listCriteria(props.document.sheet).map((c) => [c.criterion.id, c.criterion])),
);
const labelOf = (id: string): string => labels.value.get(id)?.label ?? '';
const chosen = computed(() => (at.value === null ? undefined : labels.value.get(at.value)));
const late = computed(() =>
  props.document.late.map((e) => {
    const criterion = e.criterionId === null ? undefined : labels.value.get(e.criterionId);
    return {
      ...e,
      label: criterion?.label ?? 'Note',
      words: criterion ? entryWords(e, criterion) : (e.note ?? ''),
    };
  }),
);
const anything = computed(
  () => amendment.own.value.length > 0 || props.document.late.length > 0 || amendment.asVoid.value,
);
const conflict = computed(() => !amendment.asVoid.value && amendment.outcome.value.conflicts.length > 0);
const ready = computed(() => anything.value && reason.value.trim() !== '' && !conflict.value);

async function sign(): Promise<void> {
  const { id } = props.document.attempt;
  const done = await act(() =>
    request(ROUTES.amend, {
      params: { id },
      body: {
        fromRevision: last.value.revision,
        late: props.document.late.map((e) => ({ id: e.id, take: amendment.taken.has(e.id) })),
        entries: amendment.own.value.map(asSent),
        reason: reason.value.trim(),
        asVoid: amendment.asVoid.value,
      },
    }),
  );
  if (done) await router.push({ name: 'sheet', params: { classId: props.classId, attemptId: id } });
}
</script>

<template>
  <div class="amend">
    <section class="work" aria-label="The sheet as it would stand">
      <header class="head">
        <h1>Amend {{ document.attempt.pieceLabel }}, {{ document.attempt.traineeName }}</h1>
        <p class="soft">
          {{ document.sheet.title }}. Signed by {{ last.signedBy }}, {{ momentWords(last.signedAt, 'full') }}.
          What was signed stays; change here what is to count from now on.
        </p>
      </header>
      <LocalRows
        :sheet="document.sheet"
        :outcome="amendment.outcome.value"
        :outcomes="amendment.outcomes.value"
        :references="document.references"
        :entry-of="amendment.entryOf"
        :entry-by-id="amendment.entryById"
        :at="at"
        @choose="at = $event"
        @value="amendment.enter"
      />
    </section>
    <aside class="side" aria-label="The amendment">
      <div class="row verdicts" data-test="amended-verdict">
        <VerdictRing :verdict="last.outcome.verdict" :share="last.outcome.share" :size="44" />
        <span>{{ VERDICT_WORDS[last.outcome.verdict] }}</span>
        <span aria-label="becomes">→</span>
        <VerdictRing
          :verdict="amendment.outcome.value.verdict"
          :share="amendment.outcome.value.share"
          :size="44"
        />
        <b>{{ VERDICT_WORDS[amendment.outcome.value.verdict] }}</b>
      </div>
      <ul v-if="amendment.outcome.value.reasons.length > 0" class="soft small reasons">
        <li v-for="(r, i) in amendment.outcome.value.reasons" :key="i">{{ reasonWords(r, labelOf) }}</li>
      </ul>
      <section v-if="late.length > 0" data-test="late">
        <h2>Came after it was signed</h2>
        <ul class="list">
          <li v-for="e in late" :key="e.id">
            <span
              ><b>{{ e.label }}</b>: {{ e.words }}
              <span class="soft small">{{ e.authorName }}, {{ momentWords(e.at, 'short') }}</span></span
            >
            <el-switch
              :model-value="amendment.taken.has(e.id)"
              size="large"
              active-text="take"
              :aria-label="`Take ${e.label}: ${e.words}`"
              @update:model-value="(on: string | number | boolean) => amendment.take(e.id, Boolean(on))"
            />
          </li>
        </ul>
        <p class="soft small">What is not taken is left out for good, and stays beside the record.</p>
      </section>
      <ChosenRow
        v-if="chosen"
        :criterion="chosen"
        :entry="amendment.entryOf(chosen.id)"
        @enter="amendment.enter(chosen.id, '', $event)"
      />
      <section data-test="changes">
        <h2>Changed</h2>
        <p v-if="amendment.changes.value.length === 0" class="soft">Nothing yet: enter it in its row.</p>
        <ul v-else class="list">
          <li v-for="c in amendment.changes.value" :key="c.id">
            <span><b>{{ c.label }}</b>: <s>{{ c.was }}</s> {{ c.now }}</span>
            <el-button size="large" :aria-label="`Take back: ${c.label}`" @click="amendment.takeBack(c.id)"
              >Take back</el-button
            >
          </li>
        </ul>
      </section>
      <el-checkbox
        :model-value="amendment.asVoid.value"
        size="large"
        class="long"
        label="Make the whole piece void"
        @update:model-value="(on: unknown) => (amendment.asVoid.value = Boolean(on))"
      />
      <div class="field">
        <label class="soft" for="amend-reason">Why it is amended</label>
        <el-input
          id="amend-reason"
          v-model="reason"
          type="textarea"
          :autosize="{ minRows: 2, maxRows: 6 }"
          maxlength="400"
        />
      </div>
      <p v-if="conflict" class="notice">
        Two results stand against each other: {{ amendment.outcome.value.conflicts.map(labelOf).join(', ') }}.
        Enter the right one in its row.
      </p>
      <p v-if="failure" class="notice bad row" role="alert">
        {{ failure }} <el-button size="large" @click="emit('moved')">Open it again</el-button>
      </p>
      <div class="row">
        <el-button
          size="large"
          type="primary"
          data-test="sign-amendment"
          :disabled="!ready"
          :loading="busy"
          @click="sign"
          >Sign the amendment</el-button
        >
        <RouterLink class="act" :to="{ name: 'sheet', params: { classId, attemptId: document.attempt.id } }"
          >Cancel</RouterLink
        >
      </div>
    </aside>
  </div>
</template>

<style scoped>
.amend {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 400px;
  height: 100%;
}
.work {
  container: sheet / inline-size;
  overflow: auto;
  background: var(--sheet);
}
.head {
  padding: 14px 20px 10px;
}
.side {
  overflow: auto;
  padding: 16px 20px;
  border-left: 1px solid var(--hair);
  display: grid;
  gap: 16px;
  align-content: start;
}
.verdicts {
  font-size: 1.125rem;
  flex-wrap: wrap;
}
.reasons {
  margin: 0;
  padding-left: 20px;
}
.list {
  list-style: none;
  margin: 6px 0;
  padding: 0;
}
.list li {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
  padding: 6px 0;
  border-bottom: 1px solid var(--hair);
}
@media (max-width: 900px) {
  .amend {
    grid-template-columns: minmax(0, 1fr);
    height: auto;
  }
  .side {
    border-left: 0;
    border-top: 1px solid var(--hair);
  }
}
</style>
