<script setup lang="ts">
import type { Cause } from '@clear-mark/core';
import type { SuggestionCount } from '@clear-mark/contract';
import { CAUSE_WORDS } from '@clear-mark/words';
import { onMounted, ref, shallowRef } from 'vue';
import { call, ROUTES, wordsOf } from '../../api/client.ts';

/** How the suggested causes fared: what instructors charged, and what they put away as wrong. */
const props = defineProps<{ classId: string }>();
const counts = shallowRef<readonly SuggestionCount[] | null>(null);
const failure = ref<string | null>(null);
onMounted(async () => {
  try {
    counts.value = await call(ROUTES.suggestions, { params: { id: props.classId } });
  } catch (error) {
    failure.value = wordsOf(error);
  }
});
</script>

<template>
  <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
  <p v-else-if="counts?.length === 0" class="soft">
    No suggestion was charged or put away yet. Both happen on a sheet, under Likely causes.
  </p>
  <table v-else-if="counts" class="plain">
    <thead>
      <tr>
        <th>Suggested cause</th>
        <th class="n">Charged</th>
        <th class="n">Put away as wrong</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="c in counts" :key="c.cause">
        <td>{{ CAUSE_WORDS[c.cause as Cause] ?? c.cause }}</td>
        <td class="n">{{ c.charged }}</td>
        <td class="n">{{ c.dismissed }}</td>
      </tr>
    </tbody>
  </table>
</template>
