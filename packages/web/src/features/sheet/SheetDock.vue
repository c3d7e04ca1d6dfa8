<script setup lang="ts">
import type { CriterionOutcome } from '@clear-mark/core';
import { faultWords, sourceWords } from '@clear-mark/words';
import { computed } from 'vue';
import { sourcesOf } from '../../shared/limit-words.ts';
import type { SheetCriterion } from './sheet.model.ts';

/** What can be done with the current criterion, always in the same place: rows above never move for it. */
const props = defineProps<{
  item: SheetCriterion;
  outcome: CriterionOutcome;
  undoLabel: string | null;
  /** Open checks of this step, and open criteria of the sheet that are only scored when seen. */
  openInStep: number;
  openSampled: number;
}>();
const emit = defineEmits<{
  pass: [];
  fail: [];
  fault: [code: string];
  notSeen: [];
  passStep: [];
  restNotSeen: [];
  note: [];
  undo: [];
  keys: [];
}>();

const isCheck = computed(() => props.item.criterion.kind === 'check');
const failed = computed(
  () => isCheck.value && props.outcome.state === 'scored' && props.outcome.verdict === 'fail',
);
const scoredCheck = computed(() => isCheck.value && props.outcome.state === 'scored');
</script>

<template>
  <div class="dock" role="toolbar" aria-label="Current criterion">
    <div class="about">
      <p class="name">{{ item.criterion.label }}</p>
      <p class="small soft">
        {{ item.criterion.hint ?? sourcesOf(item.criterion).map(sourceWords).join('; ') }}
      </p>
    </div>
    <div v-if="failed && item.criterion.faults?.length" class="faults row">
      <span class="small soft">What went wrong?</span>
      <button
        v-for="code in item.criterion.faults"
        :key="code"
        class="act"
        type="button"
        :aria-pressed="outcome.faults.includes(code)"
        @click="emit('fault', code)"
      >
        {{ faultWords(code) }}
      </button>
    </div>
    <div class="row acts">
      <button
        v-if="scoredCheck && outcome.verdict === 'fail'"
        class="act"
        type="button"
        @click="emit('pass')"
      >
        Pass instead
      </button>
      <button v-else-if="scoredCheck" class="act" type="button" @click="emit('fail')">Fail instead</button>
      <button v-if="openInStep > 1" class="act next" type="button" title="Key P" @click="emit('passStep')">
        Pass {{ openInStep }} checks
      </button>
      <button class="act" type="button" @click="emit('notSeen')">Not seen</button>
      <button v-if="openSampled > 0" class="act" type="button" title="Key E" @click="emit('restNotSeen')">
        Rest not seen
      </button>
      <button class="act" type="button" @click="emit('note')">Note</button>
      <button
        class="act"
        type="button"
        :disabled="undoLabel === null"
        :title="undoLabel ?? ''"
        @click="emit('undo')"
      >
        Undo
      </button>
      <button class="act quiet" type="button" aria-label="List of keys" @click="emit('keys')">?</button>
    </div>
  </div>
</template>

<style scoped>
.dock {
  contain: layout style;
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 6px 16px;
  align-items: center;
  padding: 8px 14px;
  background: var(--sheet);
  border-top: 2px solid var(--accent);
}
.name {
  font-weight: 700;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.about .small {
  overflow: hidden;
  display: -webkit-box;
  -webkit-line-clamp: 2;
  -webkit-box-orient: vertical;
}
.faults {
  grid-column: 1 / -1;
  grid-row: 1;
}
.acts {
  flex-wrap: wrap;
}
@media (max-width: 800px) {
  .dock {
    grid-template-columns: minmax(0, 1fr);
    padding: 6px 12px;
  }
  .about .small {
    display: none;
  }
}
</style>
