<script setup lang="ts">
import type { TraceRow } from '@clear-mark/contract';
import { computed, ref } from 'vue';
import { ROUTES } from '../../../../api/client.ts';
import { useReply } from '../../../../api/queries.ts';
import ChoiceField from '../../../../shared/ChoiceField.vue';
import { seriesWords } from './series-words.ts';
import { useTraceSeries } from './use-trace-series.ts';

/** Series of traces that are read blind: set from simulated plants or from kept traces, and what came of them. */
const props = defineProps<{ classId: string; rows: readonly TraceRow[] }>();
const emit = defineEmits<{ made: [] }>();
const { found: series, again } = useReply(ROUTES.traceSeries, () => ({ params: { id: props.classId } }));
const { busy, failure, done, fromPlants, fromKept } = useTraceSeries(() => props.classId);
const isMaking = ref(false);
const label = ref('');
const count = ref(8);
const from = ref<'plants' | 'kept'>('plants');
const chosen = ref<string[]>([]);
const problem = computed(() => {
  if (label.value.trim() === '') return 'Give the series a name.';
  if (from.value === 'kept' && chosen.value.length < 2)
    return 'Choose two traces at least, passing and failing ones.';
  return null;
});
async function make(): Promise<void> {
  const name = label.value.trim();
  const made =
    from.value === 'plants' ? await fromPlants(name, count.value) : await fromKept(name, chosen.value);
  if (!made) return;
  [isMaking.value, label.value, chosen.value] = [false, '', []];
  emit('made');
  await again();
}
</script>

<template>
  <section class="section" data-test="trace-series">
    <div class="row spread">
      <div>
        <h2>Read blind</h2>
        <p class="soft">
          Each trace is read without help and called pass or fail: 0.75 dB a connection, 0.3 dB a splice.
        </p>
      </div>
      <el-button v-if="!isMaking" size="large" @click="isMaking = true">Set a series</el-button>
    </div>
    <form v-if="isMaking" aria-label="New series of traces" @submit.prevent="make">
      <div class="row fields">
        <label class="field"><span>Name</span><el-input v-model="label" size="large" maxlength="60" /></label>
        <ChoiceField
          v-model="from"
          label="Traces of"
          :options="[
            { value: 'plants', label: 'simulated plants' },
            { value: 'kept', label: 'this class' },
          ]"
        />
        <ChoiceField
          v-if="from === 'plants'"
          v-model="count"
          label="How many"
          :options="[4, 8, 12, 20].map((n) => ({ value: n, label: String(n) }))"
        />
        <label v-else class="field wide"
          ><span>Traces</span
          ><el-select v-model="chosen" multiple filterable size="large" placeholder="Choose traces">
            <el-option v-for="r in rows" :key="r.id" :value="r.id" :label="r.label" /> </el-select
        ></label>
      </div>
      <div class="row">
        <el-button
          size="large"
          type="primary"
          native-type="submit"
          :loading="busy"
          :disabled="problem !== null"
          >Save series</el-button
        >
        <el-button size="large" @click="isMaking = false">Cancel</el-button>
        <span v-if="done !== null" role="status">{{ done }} of {{ count }} traces made</span>
        <span v-else-if="problem" class="soft">{{ problem }}</span>
      </div>
    </form>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <article v-for="s in series ?? []" :key="s.id" :data-series="s.label">
      <div class="row spread">
        <h3>{{ s.label }}: {{ s.traces }} traces</h3>
        <RouterLink class="act" :to="{ name: 'trace-run', params: { seriesId: s.id } }"
          >Read it yourself</RouterLink
        >
      </div>
      <ul>
        <li v-for="r in s.runs" :key="r.id" class="row">
          <b>{{ r.personName }}</b>
          <span>{{ r.result ? seriesWords(r.result) : `at trace ${r.answered + 1} of ${s.traces}` }}</span>
          <RouterLink
            v-if="r.attemptId"
            class="act"
            :to="{ name: 'sheet', params: { classId, attemptId: r.attemptId } }"
            >Its sheet</RouterLink
          >
        </li>
      </ul>
    </article>
  </section>
</template>

<style scoped>
.fields {
  align-items: end;
  gap: 14px;
  margin: 10px 0;
}
.field {
  display: grid;
  gap: 2px;
}
.wide {
  min-width: 340px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
h3 {
  margin: 6px 0;
}
</style>
