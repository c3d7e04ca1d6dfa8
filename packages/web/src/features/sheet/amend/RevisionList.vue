<script setup lang="ts">
import type { AttemptDocument } from '@clear-mark/contract';
import { REVISION_KIND_WORDS, VERDICT_WORDS } from '@clear-mark/words';
import { computed } from 'vue';
import { momentWords } from '../../../shared/time-words.ts';
import { revisionChanges } from './amendment.model.ts';

/** What was signed, one after the other: by whom, why it was amended, and what that changed. */
const props = defineProps<{ document: AttemptDocument }>();
const revisions = computed(() =>
  [...props.document.revisions].reverse().map((r) => ({
    ...r,
    changes: revisionChanges(props.document.sheet, props.document.entries, props.document.revisions, r),
  })),
);
</script>

<template>
  <div class="notice signed" data-test="revisions">
    <div v-for="r in revisions" :key="r.revision" class="revision">
      <p>
        <b>{{ REVISION_KIND_WORDS[r.kind] }}</b> by {{ r.signedBy }}, {{ momentWords(r.signedAt, 'short') }},
        {{ VERDICT_WORDS[r.outcome.verdict].toLowerCase()
        }}<template v-if="r.reason">: {{ r.reason }}</template>. Record <code>{{ r.hash.slice(0, 12) }}</code>
      </p>
      <ul v-if="r.changes.length > 0">
        <li v-for="c in r.changes" :key="c.id">{{ c.label }}: <s>{{ c.was }}</s> <b>{{ c.now }}</b></li>
      </ul>
    </div>
  </div>
</template>

<style scoped>
.revision + .revision {
  margin-top: 6px;
  padding-top: 6px;
  border-top: 1px solid var(--hair);
}
ul {
  margin: 2px 0 0;
  padding-left: 20px;
}
</style>
