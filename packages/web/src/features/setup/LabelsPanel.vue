<script setup lang="ts">
import type { ClassDetail } from '@clear-mark/contract';
import { ref } from 'vue';
import LabelsDialog from './LabelsDialog.vue';

/** Labels for what a class works with. */
defineProps<{ detail: ClassDetail }>();
const making = ref(false);
</script>

<template>
  <section class="section">
    <h2>Labels</h2>
    <p class="soft">A label with a code on a bench, a cleaver or a trainee’s place opens it by one scan.</p>
    <el-button size="large" @click="making = true">Labels with codes</el-button>
    <LabelsDialog v-if="making" :detail="detail" @close="making = false" />
  </section>
</template>
