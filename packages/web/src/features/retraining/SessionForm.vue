<script setup lang="ts">
import type { PlanSession } from '@clear-mark/contract';
import { computed, ref } from 'vue';
import { typedWhole } from './plan.model.ts';

const props = defineProps<{ session: PlanSession }>();
const emit = defineEmits<{ save: [session: PlanSession]; leave: [] }>();
const local = (iso: string): string => {
  const at = new Date(iso);
  return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
};
const startsAt = ref(local(props.session.startsAt));
const minutes = ref(String(props.session.minutes));
const place = ref(props.session.place);
const length = computed(() => typedWhole(minutes.value, 1440));
const problem = computed(() =>
  startsAt.value === '' || Number.isNaN(Date.parse(startsAt.value))
    ? 'Choose a day and a time.'
    : length.value === null || length.value === undefined || length.value < 5
      ? 'A session has from 5 to 1440 minutes.'
      : null,
);
function keep(): void {
  if (problem.value) return;
  const at = new Date(startsAt.value).toISOString();
  emit('save', { id: props.session.id, startsAt: at, minutes: length.value!, place: place.value });
}
</script>

<template>
  <form class="row form" aria-label="Session" @submit.prevent="keep">
    <label class="field"
      ><span>Starts</span><input v-model="startsAt" class="text-field" type="datetime-local" name="starts"
    /></label>
    <label class="field"
      ><span>Minutes</span><el-input v-model="minutes" inputmode="numeric" name="minutes"
    /></label>
    <label class="field grow"
      ><span>Where</span><el-input v-model="place" maxlength="80" name="place"
    /></label>
    <button class="act next" type="submit" :disabled="problem !== null">Keep the session</button>
    <button class="act quiet" type="button" @click="emit('leave')">Leave it</button>
    <p v-if="problem" class="notice bad" role="alert">{{ problem }}</p>
  </form>
</template>

<style scoped>
.form {
  align-items: flex-end;
  padding: 12px 0;
}
.grow {
  flex: 1;
  min-width: 200px;
}
</style>
