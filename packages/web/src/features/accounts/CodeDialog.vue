<script setup lang="ts">
import type { GivenCode } from '@clear-mark/contract';
import { useClipboard } from '@vueuse/core';
import { computed } from 'vue';
import QrCode from '../../shared/QrCode.vue';
import { momentWords } from '../../shared/time-words.ts';
import { joinAddress } from './accounts.model.ts';

/** A code that was just made: it is shown once, to be read out, scanned, or sent on. */
const props = defineProps<{ name: string; given: GivenCode }>();
const emit = defineEmits<{ close: [] }>();
const address = computed(() => joinAddress(location.origin, props.given.code));
const { copy, copied } = useClipboard({ source: address, legacy: true });
</script>

<template>
  <el-dialog
    model-value
    :title="`Code for ${name}`"
    width="min(560px, 94vw)"
    align-center
    data-test="code-dialog"
    @close="emit('close')"
  >
    <p>
      {{ name }} opens this address, or types the code where one signs in, and chooses a password. It is shown
      this once and holds until {{ momentWords(given.until, 'full') }}.
    </p>
    <div class="code">
      <QrCode :text="address" label="The address as a code to scan" />
      <b data-test="code">{{ given.code }}</b>
    </div>
    <p class="soft address">{{ address }}</p>
    <template #footer>
      <el-button size="large" @click="copy()">{{ copied ? 'Copied' : 'Copy the address' }}</el-button>
      <el-button size="large" type="primary" @click="emit('close')">Done</el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.code {
  display: flex;
  align-items: center;
  gap: 24px;
  margin: 16px 0;
}
.code b {
  font-size: 1.5rem;
  white-space: nowrap;
  letter-spacing: 0.04em;
}
.address {
  overflow-wrap: anywhere;
}
@media (max-width: 560px) {
  .code {
    flex-direction: column;
  }
}
</style>
