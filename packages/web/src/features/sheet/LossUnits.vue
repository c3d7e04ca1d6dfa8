<script setup lang="ts">
import { UNIT_WORDS } from '@clear-mark/words';
import { LOSS_UNITS, type LossUnit } from './loss-field.model.ts';

/** What the readings of a loss are typed in: one tap each. */
defineProps<{ locked?: boolean }>();
const unit = defineModel<string>({ required: true });
const choose = (u: LossUnit): void => void (unit.value = u);
</script>

<template>
  <div class="row" role="group" aria-label="Readings in">
    <button
      v-for="u in LOSS_UNITS"
      :key="u"
      class="act"
      type="button"
      :aria-pressed="unit === u"
      :disabled="locked"
      @click="choose(u)"
    >
      {{ UNIT_WORDS[u] }}
    </button>
  </div>
</template>
