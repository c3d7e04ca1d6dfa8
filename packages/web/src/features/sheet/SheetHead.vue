<script setup lang="ts">
import { chosenOption, type Entry } from '@clear-mark/core';
import type { AttemptDocument } from '@clear-mark/contract';
import { thingWords } from '@clear-mark/words';
import { computed } from 'vue';
import { MeasuredPictures } from '../measured/index.ts';
import { AttemptFaces } from '../faces/index.ts';
import { AttemptTraces } from '../links/index.ts';
import RevisionList from './amend/RevisionList.vue';
import { measuredIn } from './pictures.model.ts';
import { isEndFace, isOfTrace } from './sheet.model.ts';
import { momentWords } from '../../shared/time-words.ts';

const props = defineProps<{
  document: AttemptDocument;
  classId: string;
  entries: readonly Entry[];
}>();
/** Values that were measured in pictures. */
const measured = computed(() => measuredIn(props.entries));
const attempt = computed(() => props.document.attempt);
const practice = computed(() =>
  (props.document.sheet.schools ?? []).map((s) => {
    const id = chosenOption(s, props.document.sheet.chosen ?? {});
    return {
      question: s.question,
      answer: s.options.find((o) => o.id === id)?.label ?? id,
      shipped: id === s.default,
    };
  }),
);
const otherwise = computed(() => practice.value.filter((s) => !s.shipped));
/** Sheets on which an end face is judged. */
const hasFace = computed(() => props.document.sheet.steps.some((s) => s.criteria.some(isEndFace)));
/** Sheets whose figures come from a trace that is read. */
const hasTrace = computed(() => props.document.sheet.steps.some((s) => s.criteria.some(isOfTrace)));
/** What it took of the stock is told there. */
const tools = computed(() => attempt.value.things.filter((t) => !t.item));
const when = (iso: string): string => momentWords(iso, 'short');
const whenFull = (iso: string): string => momentWords(iso, 'full');
</script>

<template>
  <header class="head">
    <div class="line">
      <div class="who">
        <h1>{{ attempt.traineeName }}</h1>
        <p class="soft">
          Piece <b>{{ attempt.pieceLabel }}</b>, started {{ when(attempt.startedAt)
          }}<template v-if="attempt.claimedStartedAt"
            >, held back: the device said {{ whenFull(attempt.claimedStartedAt) }}</template
          >
        </p>
      </div>
      <div class="method">
        <RouterLink
          v-if="classId"
          :to="{ name: 'method', params: { classId, versionId: attempt.methodVersionId } }"
          >{{ document.sheet.title }}</RouterLink
        >
        <span v-else>{{ document.sheet.title }}</span>
      </div>
    </div>
    <div class="line">
      <div class="acts">
        <slot name="acts" />
        <AttemptFaces
          v-if="classId && hasFace"
          :class-id="classId"
          :attempt-id="attempt.id"
          :open="attempt.state === 'open'"
        />
        <MeasuredPictures
          v-if="classId && measured.length > 0"
          :class-id="classId"
          :attempt-id="attempt.id"
          :measured="measured"
        />
        <AttemptTraces
          v-if="classId && hasTrace"
          :class-id="classId"
          :attempt-id="attempt.id"
          :open="attempt.state === 'open'"
        />
      </div>
      <div class="under">
        <p class="soft small" :title="attempt.things.map((t) => t.label).join(', ')">
          <template v-if="document.sheet.onLink">on <b>{{ document.sheet.onLink.label }}</b> · </template
          >version {{ document.sheet.version }}{{ tools.length > 0 ? ' · ' : '' }}
          <template v-for="(thing, i) in tools" :key="thing.id"
            >{{ i > 0 ? ', ' : '' }}<span :title="thingWords(thing.kind)">{{ thing.label }}</span></template
          >
        </p>
        <details v-if="practice.length > 0" class="small practice" data-test="scored-by">
          <summary>
            Scored by
            {{
              otherwise.length === 0
                ? 'the shipped choices'
                : `${otherwise.length} of the class’s own choices`
            }}
          </summary>
          <p v-for="s in practice" :key="s.question" :class="{ soft: s.shipped }">
            {{ s.question }} <b>{{ s.answer }}</b>
          </p>
        </details>
      </div>
    </div>
    <slot />
    <RevisionList v-if="document.revisions.length > 0" :document="document" />
    <p v-if="document.late.length > 0 && classId" class="notice">
      {{ document.late.length }} {{ document.late.length === 1 ? 'entry' : 'entries' }} came after it was
      signed:
      <RouterLink :to="{ name: 'amend', params: { classId, attemptId: attempt.id } }"
        >look at {{ document.late.length === 1 ? 'it' : 'them' }} for an amendment</RouterLink
      >.
    </p>
  </header>
</template>

<style scoped>
.head {
  padding: 6px 20px 4px;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 4px;
  background: var(--sheet);
  position: sticky;
  top: 0;
  z-index: 4;
  border-bottom: 1px solid var(--hair);
}

.line {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 4px 20px;
}
.who,
.acts {
  flex: none;
  max-width: 100%;
}
.who {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0 14px;
}
.method {
  text-align: right;
  min-width: 0;
}
.acts {
  /* Many pictures go to a second row before they cover what is beside them. */
  flex: 0 1 auto;
  min-width: 0;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
}
.method a,
.method span,
.under p {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  max-width: 100%;
}
/* It takes what the choices leave, and asks for no room itself. */
.under p {
  flex: 1 1 0;
  width: 0;
  text-align: right;
}
.practice:not([open]) {
  flex: none;
}
.under {
  flex: 1 0 auto;
  min-width: 0;
  display: flex;
  align-items: center;
  justify-content: flex-end;
  gap: 0 14px;
}
.under:has(.practice[open]) {
  flex-wrap: wrap;
}
.practice[open] {
  flex-basis: 100%;
}
.practice[open] summary {
  margin-left: auto;
}
.method a {
  font-weight: 700;
  display: inline-block;
  line-height: 28px;
}
.practice p {
  margin: 2px 0;
}
.signed {
  border-color: var(--void);
  background: var(--void-wash);
}
code {
  font-family: inherit;
}
/* What sticks would cover what is read: at 200 % a laptop has 400 px. */
@media (max-height: 600px) {
  .head {
    position: static;
  }
}
@media (max-width: 800px) {
  .line {
    flex-wrap: wrap;
  }
  .under {
    flex: 1 1 100%;
    justify-content: flex-start;
    max-width: 100%;
  }
  .under p {
    text-align: left;
  }
  .practice:not([open]) {
    flex: 0 1 auto;
    min-width: 0;
  }
  .method {
    text-align: left;
    max-width: 100%;
  }
}
</style>
