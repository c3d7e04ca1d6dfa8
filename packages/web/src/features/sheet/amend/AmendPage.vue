<script setup lang="ts">
import { ROUTES } from '../../../api/client.ts';
import { useReply } from '../../../api/queries.ts';
import AmendSheet from './AmendSheet.vue';

/** A signed piece is put right: what was signed stays, a further revision counts from then on. */
const props = defineProps<{ classId: string; attemptId: string }>();
const { found, failure, again } = useReply(ROUTES.attempt, () => ({ params: { id: props.attemptId } }));
</script>

<template>
  <div v-if="!found" class="page">
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <el-skeleton v-else :rows="8" animated />
  </div>
  <p v-else-if="found.attempt.state !== 'signed'" class="page notice">
    This piece is not signed: change it on
    <RouterLink :to="{ name: 'sheet', params: { classId, attemptId } }">its sheet</RouterLink>.
  </p>
  <AmendSheet v-else :key="found.revisions.length" :class-id="classId" :document="found" @moved="again" />
</template>
