<script setup lang="ts">
import { computed } from 'vue';
import { useClassroom } from '../../../classroom/use-classroom.ts';
import ChoiceField from '../../../shared/ChoiceField.vue';

/** Keeps the picture with what was made of it, with an attempt at work or by itself. */
const props = defineProps<{
  kept: boolean;
  changed: boolean;
  busy: boolean;
  attemptId: string;
  keptWith: string | null;
}>();
const emit = defineEmits<{ keep: []; attempt: [id: string] }>();
const classroom = useClassroom();
const attempts = computed(() =>
  [...classroom.attempts.values()]
    .map((attempt) => ({ id: attempt.id, words: `${attempt.traineeName}, ${attempt.pieceLabel}` }))
    .sort((a, b) => a.words.localeCompare(b.words)),
);
const label = computed(() => {
  if (!props.kept) return 'Keep';
  return props.changed ? 'Keep the change' : 'Kept';
});
/** Pieces at work; the one that it was kept with as well, though it may be signed by now. */
const offered = computed(() => {
  const list = attempts.value.map((a) => ({ value: a.id, label: `with ${a.words}` }));
  const gone = props.keptWith !== null && !attempts.value.some((a) => a.id === props.attemptId);
  return gone ? [{ value: props.attemptId, label: `with ${props.keptWith}` }, ...list] : list;
});
</script>

<template>
  <div class="row keep">
    <ChoiceField
      bare
      label="Keep with"
      none="by itself"
      :model-value="attemptId"
      :disabled="kept"
      :options="offered"
      @change="(id) => emit('attempt', id)"
    />
    <el-button
      size="large"
      type="primary"
      :disabled="busy || (kept && !changed)"
      data-test="keep"
      @click="emit('keep')"
    >
      {{ label }}
    </el-button>
  </div>
</template>

<style scoped>
.keep {
  margin-top: 12px;
  flex-wrap: nowrap;
}
.keep .bare {
  min-width: 0;
  flex: 1;
}
.keep :deep(.choice) {
  width: 100%;
}
</style>
