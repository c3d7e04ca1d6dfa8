<script setup lang="ts">
import type { OwnBench } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { ref } from 'vue';
import { useRouter } from 'vue-router';
import { request, ROUTES, wordsOf } from '../../api/client.ts';
import { labelOfPiece } from '../../shared/initials.ts';
import { useSession } from '../../session/session.ts';
import ChoiceField from '../../shared/ChoiceField.vue';

/** A trainee's own bench: what is open, and one tap to start the next piece by the last method. */
const props = defineProps<{ bench: OwnBench }>();
const session = useSession();
const router = useRouter();
const versionId = ref(props.bench.lastVersionId ?? props.bench.methods[0]?.versionId ?? '');
const failure = ref<string | null>(null);

async function start(): Promise<void> {
  const me = session.me!;
  const now = new Date().toISOString();
  try {
    const { attemptId } = await request(ROUTES.startAttempt, {
      params: { id: props.bench.classId },
      body: {
        id: v7(),
        traineeId: me.id,
        methodVersionId: versionId.value,
        pieceId: v7(),
        pieceLabel: labelOfPiece(me.name, props.bench.pieces + 1),
        thingIds: [...props.bench.lastThingIds],
        startedAt: now,
        deviceId: session.deviceId,
        sentAt: now,
      },
    });
    await router.push({ name: 'own-sheet', params: { attemptId } });
  } catch (error) {
    failure.value = wordsOf(error);
  }
}
</script>

<template>
  <section class="section">
    <h2>{{ bench.className }}: my bench</h2>
    <p v-for="o in bench.open" :key="o.attemptId" class="open">
      <RouterLink class="act next" :to="{ name: 'own-sheet', params: { attemptId: o.attemptId } }"
        >Go on with {{ o.pieceLabel }}</RouterLink
      >
      <span class="soft">{{ o.title }}</span>
    </p>
    <p v-if="bench.methods.length === 0" class="soft">No method is in use in this class yet.</p>
    <div v-else class="row">
      <ChoiceField
        v-model="versionId"
        bare
        label="Method"
        :options="bench.methods.map((m) => ({ value: m.versionId, label: m.title }))"
      />
      <el-button size="large" :type="bench.open.length === 0 ? 'primary' : 'default'" @click="start">
        Start a piece
      </el-button>
    </div>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
  </section>
</template>

<style scoped>
.open {
  display: flex;
  align-items: center;
  gap: 14px;
  margin-bottom: 8px;
}
</style>
