<script setup lang="ts">
import type { PlanSession } from '@clear-mark/contract';
import { computed, ref } from 'vue';
import { typedWhole } from './plan.model.ts';

const props = defineProps<{ session: PlanSession }>();
const emit = defineEmits<{ save: [session: PlanSession]; leave: [] }>();
const startsAt = ref<Date | null>(new Date(props.session.startsAt));
const minutes = ref(String(props.session.minutes));
const place = ref(props.session.place);
const length = computed(() => typedWhole(minutes.value, 1440));
const problem = computed(() =>
  startsAt.value === null
    ? 'Choose a day and a time.'
    : length.value === null || length.value === undefined || length.value < 5
      ? 'A session has from 5 to 1440 minutes.'
      : null,
);
function keep(): void {
  if (problem.value) return;
  const at = startsAt.value!.toISOString();
  emit('save', { id: props.session.id, startsAt: at, minutes: length.value!, place: place.value });
}
</script>

<template>
  <form class="row form" aria-label="Session" @submit.prevent="keep">
    <div class="field">
      <label for="session-starts" class="soft">Starts</label>
      <el-date-picker
        id="session-starts"
        v-model="startsAt"
        type="datetime"
        size="large"
        format="D MMM YYYY, HH:mm"
        :clearable="false"
        name="starts"
      />
    </div>
    <label class="field"
      ><span>Minutes</span><el-input v-model="minutes" inputmode="numeric" name="minutes"
    /></label>
    <label class="field grow"
      ><span>Where</span><el-input v-model="place" maxlength="80" name="place"
    /></label>
    <el-button size="large" type="primary" native-type="submit" :disabled="problem !== null"
      >Keep the session</el-button
    >
    <el-button size="large" text @click="emit('leave')">Leave it</el-button>
    <p v-if="problem" class="notice bad" role="alert">{{ problem }}</p>
  </form>
</template>

<style scoped>
.form {
  align-items: flex-end;
  padding: 12px 0;
}
.form :deep(.el-date-editor) {
  --el-date-editor-width: 260px;
}
.grow {
  flex: 1;
  min-width: 200px;
}
</style>
