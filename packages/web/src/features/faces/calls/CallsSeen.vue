<script setup lang="ts">
import type { FinishedRun } from '@clear-mark/contract';
import { callPictureUrl } from '../../../api/client.ts';
import KeptPicture from '../../../shared/KeptPicture.vue';
import VerdictRing from '../../../shared/VerdictRing.vue';
import { KIND_WORDS } from '../face-words.ts';
import CallMarks from './CallMarks.vue';
import SeenMarks from './SeenMarks.vue';

/** What each face of a finished run was, beside what was said of it. */
defineProps<{ runId: string; calls: FinishedRun['calls'] }>();
const WIDTH_PX = 176;
</script>

<template>
  <ul class="seen">
    <li v-for="c in calls" :key="c.position" :class="{ wrong: c.said !== null && c.said !== c.reference }">
      <div class="frame">
        <KeptPicture
          :src="callPictureUrl(runId, c.position)"
          :alt="`Face ${c.position + 1}`"
          :width="WIDTH_PX"
        />
        <SeenMarks v-if="c.seen" :seen="c.seen" />
        <CallMarks :marks="c.marks" />
      </div>
      <VerdictRing :verdict="c.reference" :size="20" word />
      <span class="small">{{
        c.said === null ? 'no call' : c.said === c.reference ? 'you said so' : `you said ${c.said}`
      }}</span>
      <span v-if="c.reference === 'fail'" class="small soft">{{
        c.faults.map((f) => KIND_WORDS[f]).join(', ')
      }}</span>
    </li>
  </ul>
</template>

<style scoped>
.frame {
  position: relative;
  line-height: 0;
}
.seen {
  list-style: none;
  margin: 12px 0 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 14px;
}
.seen li {
  display: grid;
  gap: 2px;
  width: 176px;
  align-content: start;
  border-top: 4px solid transparent;
  padding-top: 4px;
}
.seen li.wrong {
  border-top-color: var(--fail);
}
.seen img {
  height: auto;
}
</style>
