<script setup lang="ts">
import type { StandingName } from '@clear-mark/core';
import { STANDING_WORDS } from '@clear-mark/words';

/** Standings in the language of the ring: closed is competent, broken open is not, an arrow turns back to the bench. */
defineProps<{ standing: StandingName }>();
</script>

<template>
  <svg
    class="mark"
    :class="standing"
    viewBox="0 0 32 32"
    width="26"
    height="26"
    role="img"
    :aria-label="STANDING_WORDS[standing]"
  >
    <circle v-if="standing === 'competent'" cx="16" cy="16" r="11" class="ring" />
    <circle v-else-if="standing === 'not_tried'" cx="16" cy="16" r="11" class="ring thin" />
    <path v-else-if="standing === 'learning'" class="ring" d="M16 5A11 11 0 1 1 5 16" />
    <path v-else-if="standing === 'watch'" class="ring" d="M22.5 7.1A11 11 0 1 1 16 5L19.6 11.6Z" />
    <template v-else-if="standing === 'retrain'">
      <path class="ring" d="M26 12A11 11 0 1 0 26.4 19" />
      <path class="ring" d="M27.5 5V12.5H20" />
    </template>
    <circle v-else cx="16" cy="16" r="11" class="ring" stroke-dasharray="5 4" />
  </svg>
</template>

<style scoped>
.mark {
  flex: none;
  color: var(--void);
}
.competent {
  color: var(--pass);
}
.watch {
  color: var(--marginal);
}
.retrain {
  color: var(--fail);
}
.ring {
  fill: none;
  stroke: currentColor;
  stroke-width: 3.6;
  stroke-linejoin: round;
}
.thin {
  stroke-width: 1.4;
}
</style>
