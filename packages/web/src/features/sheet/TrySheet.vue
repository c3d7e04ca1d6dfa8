<script setup lang="ts">
import { type MethodSheet, skillsOf } from '@clear-mark/core';
import { skillWords, VERDICT_WORDS } from '@clear-mark/words';
import { computed, nextTick, ref, watch } from 'vue';
import StripDrawing from '../../shared/StripDrawing.vue';
import VerdictRing from '../../shared/VerdictRing.vue';
import { usePreferences } from '../../shell/preferences.ts';
import LocalRows from './LocalRows.vue';
import { TRIED_REFERENCE_DBM, useTriedSheet } from './use-tried-sheet.ts';

/** The sheet of a method as it is scored by, to be tried: nothing of it is kept. */
const props = defineProps<{
  sheet: MethodSheet;
  /** The criterion that is being worked on: brought into view and marked. */
  at: string | null;
}>();
const emit = defineEmits<{ choose: [criterionId: string] }>();
const preferences = usePreferences();
const tried = useTriedSheet(computed(() => props.sheet));
const root = ref<HTMLElement | null>(null);
const skills = computed(() =>
  skillsOf(tried.outcome.value.skills).flatMap((skill) => {
    const group = tried.outcome.value.skills[skill];
    return group ? [{ skill, verdict: group.verdict }] : [];
  }),
);
const hasLoss = computed(() => tried.references.value.length > 0);
watch(
  () => props.at,
  async (id) => {
    await nextTick();
    const row = root.value?.querySelector(`[data-criterion="${id?.split('/').pop()}"]`);
    // Only within its own column: on a narrow screen the page would run away from what is written.
    const column = root.value?.parentElement;
    if (
      column &&
      column.scrollHeight > column.clientHeight &&
      getComputedStyle(column).overflowY === 'auto'
    ) {
      row?.scrollIntoView({ block: 'nearest' });
    }
  },
  { immediate: true },
);
</script>

<template>
  <section ref="root" class="try" aria-label="The sheet, to be tried">
    <div class="result">
      <VerdictRing :verdict="tried.outcome.value.verdict" :share="tried.outcome.value.share" :size="34" />
      <div class="words">
        <b data-test="tried-verdict">{{ VERDICT_WORDS[tried.outcome.value.verdict] }}</b>
        <span class="soft small">
          {{ tried.outcome.value.points.earned }} of {{ tried.outcome.value.points.possible }} points
          <template v-for="s in skills" :key="s.skill">
            · {{ skillWords(s.skill) }}: {{ VERDICT_WORDS[s.verdict].toLowerCase() }}</template
          >
        </span>
      </div>
      <el-button size="large" :disabled="tried.entries.value.length === 0" @click="tried.clear()">
        Clear the try
      </el-button>
    </div>
    <p v-if="hasLoss" class="soft small note">
      Losses are tried against a made-up reference of {{ TRIED_REFERENCE_DBM }} dBm.
    </p>
    <StripDrawing
      v-if="sheet.strip"
      class="strip"
      :strip="sheet.strip"
      :place="null"
      :unit="preferences.lengthUnit"
    />
    <LocalRows
      :sheet="sheet"
      :outcome="tried.outcome.value"
      :outcomes="tried.outcomes.value"
      :references="tried.references.value"
      :entry-of="tried.entryOf"
      :entry-by-id="tried.entryById"
      :at="at"
      @choose="emit('choose', $event)"
      @value="tried.enter"
    />
  </section>
</template>

<style scoped>
.try {
  container: sheet / inline-size;
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-radius: var(--round);
}
.result {
  position: sticky;
  top: 0;
  z-index: 2;
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 8px 12px;
  background: var(--sheet);
  border-bottom: 1px solid var(--hair-strong);
  border-radius: var(--round) var(--round) 0 0;
}
.words {
  display: grid;
  flex: 1;
  min-width: 0;
}
.note {
  padding: 6px 12px 0;
}
.strip {
  margin: 8px 12px 0;
}
</style>
