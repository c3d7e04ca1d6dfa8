<script setup lang="ts">
import type { ClassDetail, ResultFilter } from '@clear-mark/contract';
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';

/** What the results are narrowed to; every choice lives in the address. */
const props = defineProps<{ filter: ResultFilter; detail: ClassDetail | null }>();
const route = useRoute();
const router = useRouter();
const groups = computed(() =>
  [...new Set(props.detail?.trainees.map((t) => t.group).filter((g) => g !== '') ?? [])].sort(),
);
const methods = computed(() => {
  const byId = new Map(props.detail?.methods.filter((m) => m.inUse).map((m) => [m.methodId, m.title]));
  return [...byId];
});

function set(name: string, event: Event): void {
  const value = (event.target as HTMLInputElement | HTMLSelectElement).value;
  const { [name]: _, ...rest } = route.query;
  void router.replace({ query: value === '' ? rest : { ...rest, [name]: value } });
}
</script>

<template>
  <div class="row filters">
    <label class="field"
      ><span>Trainee</span>
      <select class="act" :value="filter.trainee ?? ''" @change="set('trainee', $event)">
        <option value="">all</option>
        <option v-for="t in detail?.trainees ?? []" :key="t.id" :value="t.id">{{ t.name }}</option>
      </select>
    </label>
    <label v-if="groups.length > 0" class="field"
      ><span>Group</span>
      <select class="act" :value="filter.group ?? ''" @change="set('group', $event)">
        <option value="">all</option>
        <option v-for="g in groups" :key="g" :value="g">{{ g }}</option>
      </select>
    </label>
    <label class="field"
      ><span>Method</span>
      <select class="act" :value="filter.method ?? ''" @change="set('method', $event)">
        <option value="">all</option>
        <option v-for="[id, title] in methods" :key="id" :value="id">{{ title }}</option>
      </select>
    </label>
    <label class="field"
      ><span>Thing used</span>
      <select class="act" :value="filter.thing ?? ''" @change="set('thing', $event)">
        <option value="">any</option>
        <option v-for="t in detail?.things ?? []" :key="t.id" :value="t.id">{{ t.label }}</option>
      </select>
    </label>
    <label class="field"
      ><span>From</span
      ><input class="act" type="date" :value="filter.from ?? ''" @change="set('from', $event)"
    /></label>
    <label class="field"
      ><span>To</span><input class="act" type="date" :value="filter.to ?? ''" @change="set('to', $event)"
    /></label>
  </div>
</template>

<style scoped>
.filters {
  margin-bottom: 12px;
  align-items: flex-end;
}
.filters .act {
  justify-content: flex-start;
  max-width: 168px;
}
</style>
