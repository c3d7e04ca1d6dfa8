<script setup lang="ts">
import { CORE_UM, LAUNCH_JACKETS_MM, launchAdvice, type LinkPlan, type LossSettings } from '@clear-mark/core';
import { launchWords } from '@clear-mark/words';
import { computed } from 'vue';

/** The launch cord of a multimode test: which mandrel conditions it, and when none does. */
const props = defineProps<{ plan: LinkPlan; settings: LossSettings }>();
const emit = defineEmits<{ settings: [change: Partial<LossSettings>] }>();

const cord = computed(
  () => props.settings.launch ?? { jacketMm: 3, bendInsensitive: false, tenGigabit: false },
);
const advice = computed(() => launchAdvice({ ...cord.value, coreUm: CORE_UM[props.plan.fiberClass] }));
const set = (what: Partial<typeof cord.value>): void =>
  emit('settings', { launch: { ...cord.value, ...what } });
</script>

<template>
  <section class="section" data-test="launch">
    <h2>Launch cord</h2>
    <div class="row choices">
      <label class="field">
        <span>Jacket</span>
        <el-select
          :model-value="cord.jacketMm"
          size="large"
          class="jacket"
          @update:model-value="(mm: number) => set({ jacketMm: mm })"
        >
          <el-option
            v-for="mm in LAUNCH_JACKETS_MM"
            :key="mm"
            :value="mm"
            :label="mm === 0.9 ? '0.9 mm buffer' : `${mm} mm`"
          />
        </el-select>
      </label>
      <el-checkbox
        size="large"
        :model-value="cord.bendInsensitive"
        @update:model-value="(on: unknown) => set({ bendInsensitive: on === true })"
        >Bend-insensitive fiber</el-checkbox
      >
      <el-checkbox
        size="large"
        :model-value="cord.tenGigabit"
        @update:model-value="(on: unknown) => set({ tenGigabit: on === true })"
        >For 10 Gb/s and more</el-checkbox
      >
    </div>
    <p v-for="(words, i) in launchWords(advice)" :key="words" :class="{ notice: i > 0 }">{{ words }}</p>
    <p v-if="!advice.mandrelWill && settings.conditioned" class="small soft">
      “Launch conditioned” holds only with a mode-controlled cord here.
    </p>
  </section>
</template>

<style scoped>
.choices {
  align-items: end;
  gap: 18px;
}
.jacket {
  width: 160px;
}
p + p,
.choices + p {
  margin-top: 8px;
}
</style>
