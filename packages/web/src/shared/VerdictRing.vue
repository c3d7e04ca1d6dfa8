<script setup lang="ts">
import { isFail, isMarginal, type Verdict } from '@clear-mark/core';
import { VERDICT_WORDS } from '@clear-mark/words';
import { computed } from 'vue';

/**
 * The verdict as an end face in the scope: a clean ring passes, a notch is marginal, a scratch fails, a dashed
 * ring is void, an arc is as long as the share scored so far. Readable in one colour from 16 px.
 */
const props = defineProps<{ verdict: Verdict; share?: number; size?: number; word?: boolean }>();

const R = 11;
const LENGTH = 2 * Math.PI * R;
const size = computed(() => props.size ?? 28);
const tone = computed(() => toneOf(props.verdict));
const notched = computed(() => isMarginal(props.verdict));
const scratched = computed(() => isFail(props.verdict));
const arc = computed(() => `${Math.max(0, Math.min(1, props.share ?? 0)) * LENGTH} ${LENGTH}`);
const label = computed(() =>
  props.verdict === 'incomplete' && props.share !== undefined
    ? `${VERDICT_WORDS.incomplete}, ${Math.round(props.share * 100)} % scored`
    : VERDICT_WORDS[props.verdict],
);

function toneOf(verdict: Verdict): string {
  if (verdict === 'pass') return 'pass';
  if (verdict === 'fail') return 'fail';
  if (isMarginal(verdict)) return 'marginal';
  return 'void';
}
</script>

<template>
  <span class="verdict" :class="tone">
    <svg
      :width="size"
      :height="size"
      viewBox="0 0 32 32"
      :role="word ? undefined : 'img'"
      :aria-hidden="word"
      :aria-label="word ? undefined : label"
    >
      <template v-if="verdict === 'incomplete'">
        <circle cx="16" cy="16" :r="R" class="faint" />
        <circle cx="16" cy="16" :r="R" class="ring" :stroke-dasharray="arc" transform="rotate(-90 16 16)" />
      </template>
      <circle v-else-if="verdict === 'void'" cx="16" cy="16" :r="R" class="ring" stroke-dasharray="5 4" />
      <path v-else-if="notched" class="ring" d="M22.5 7.1A11 11 0 1 1 16 5L19.6 11.6Z" />
      <circle v-else cx="16" cy="16" :r="R" class="ring" />
      <path v-if="scratched" class="scratch" d="M4.5 25.5L12 19.2L19.5 13.6L28 5.5" />
    </svg>
    <span v-if="word" class="word">{{ VERDICT_WORDS[verdict] }}</span>
  </span>
</template>

<style scoped>
.verdict {
  display: inline-flex;
  align-items: center;
  gap: 8px;
  vertical-align: middle;
}
.pass {
  color: var(--pass);
}
.fail {
  color: var(--fail);
}
.marginal {
  color: var(--marginal);
}
.void {
  color: var(--void);
}
svg {
  flex: none;
}
.ring {
  fill: none;
  stroke: currentColor;
  stroke-width: 3.6;
  stroke-linejoin: round;
}
.faint {
  fill: none;
  stroke: var(--hair);
  stroke-width: 3.6;
}
.scratch {
  fill: none;
  stroke: currentColor;
  stroke-width: 3;
  stroke-linecap: round;
}
.word {
  font-weight: 700;
}
</style>
