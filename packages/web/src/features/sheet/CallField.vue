<script setup lang="ts">
import type { Call, CallCriterion, CriterionOutcome, Entry, EntryValue } from '@clear-mark/core';
import { CALLS } from '@clear-mark/core';
import { CALL_WORDS, VERDICT_WORDS } from '@clear-mark/words';
import { computed, ref, watch } from 'vue';

/** What the trainee says of the piece, beside what it is. */
const props = defineProps<{
  criterion: CallCriterion;
  entry: Entry | null;
  /** The outcome that the call is about, where the sheet has it. */
  about: CriterionOutcome | null;
  locked: boolean;
}>();
const emit = defineEmits<{ value: [value: EntryValue] }>();

const value = computed(() => (props.entry?.value?.kind === 'call' ? props.entry.value : null));
const said = ref<Call | null>(null);
const truth = ref<Call | null>(null);
watch(
  value,
  (now) => {
    said.value = now?.said ?? null;
    truth.value = now?.reference ?? null;
  },
  { immediate: true },
);

function choose(which: 'said' | 'truth', call: Call): void {
  if (which === 'said') said.value = call;
  else truth.value = call;
  if (said.value === null) return;
  if (props.criterion.of !== undefined) emit('value', { kind: 'call', said: said.value });
  else if (truth.value !== null) emit('value', { kind: 'call', said: said.value, reference: truth.value });
}
</script>

<template>
  <div class="call">
    <div class="row" role="group" :aria-label="`Trainee says: ${criterion.label}`">
      <span class="soft">Trainee says</span>
      <button
        v-for="c in CALLS"
        :key="c"
        class="act"
        type="button"
        :aria-pressed="said === c"
        :disabled="locked && said !== c"
        @click="!locked && choose('said', c)"
      >
        {{ CALL_WORDS[c] }}
      </button>
    </div>
    <p v-if="criterion.of !== undefined" class="small soft">
      {{
        about && about.state === 'scored'
          ? `the sheet says: ${VERDICT_WORDS[about.verdict].toLowerCase()}`
          : 'not judged yet on the sheet'
      }}
    </p>
    <div v-else class="row" role="group" :aria-label="`It is: ${criterion.label}`">
      <span class="soft">It is</span>
      <button
        v-for="c in CALLS"
        :key="c"
        class="act"
        type="button"
        :aria-pressed="truth === c"
        :disabled="locked && truth !== c"
        @click="!locked && choose('truth', c)"
      >
        {{ CALL_WORDS[c] }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.call {
  display: grid;
  justify-items: end;
  gap: 2px;
}
.act {
  min-width: 64px;
}
.act[aria-pressed='true'] {
  font-weight: 700;
}
</style>
