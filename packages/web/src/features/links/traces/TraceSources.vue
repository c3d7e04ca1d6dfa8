<script setup lang="ts">
import type { ClassLink } from '@clear-mark/contract';
import type { UploadFile } from 'element-plus';
import { v7 } from 'uuid';
import { ref } from 'vue';
import { NoServer, request, ROUTES, wordsOf } from '../../../api/client.ts';
import { sendTrace } from '../../../api/trace-files.ts';
import AcquireDialog from './AcquireDialog.vue';

/** Where traces come from: files, several at once, or an OTDR that is connected. */
const props = defineProps<{
  classId: string;
  links: readonly ClassLink[];
  /** The piece that what is kept belongs to. */
  attemptId: string | null;
}>();
const emit = defineEmits<{ kept: []; taken: [id: string] }>();
const isAcquiring = ref(false);
const waiting = ref(0);
const problems = ref<readonly string[]>([]);
let last = Promise.resolve();

/** One after the other; one that is refused leaves the others. */
function opened({ raw, name }: UploadFile): void {
  if (!raw) return;
  if (waiting.value === 0) problems.value = [];
  waiting.value += 1;
  last = last.then(async () => {
    try {
      const bytes = new Uint8Array(await raw.arrayBuffer());
      const row = await sendTrace(props.classId, {
        id: v7(),
        label: name.slice(0, 60),
        source: 'file',
        bytes,
      });
      if (props.attemptId !== null) {
        const { label, linkId, fiber, direction, launchM, receiveM } = row;
        const body = { label, linkId, fiber, direction, launchM, receiveM, attemptId: props.attemptId };
        await request(ROUTES.describeTrace, { params: { id: props.classId, traceId: row.id }, body });
      }
    } catch (error) {
      const words =
        error instanceof NoServer ? 'the server does not answer; open it again later.' : wordsOf(error);
      problems.value = [...problems.value, `${name}: ${words}`];
    } finally {
      waiting.value -= 1;
      if (waiting.value === 0) emit('kept');
    }
  });
}
</script>

<template>
  <div class="row sources">
    <el-upload
      multiple
      :auto-upload="false"
      :show-file-list="false"
      accept=".sor,.csv,.json"
      :on-change="opened"
    >
      <template #trigger>
        <el-button size="large" tag="span" type="primary">Open trace files</el-button>
      </template>
    </el-upload>
    <el-button size="large" @click="isAcquiring = true">Take one with an OTDR</el-button>
    <span v-if="waiting > 0" role="status">{{ waiting }} on their way</span>
    <span v-else class="soft">SOR files, or traces of ours as CSV or JSON.</span>
  </div>
  <p v-for="p in problems" :key="p" class="notice bad" role="alert">{{ p }}</p>
  <AcquireDialog
    v-model="isAcquiring"
    :class-id="classId"
    :links="links"
    :attempt-id="attemptId"
    @taken="(id) => ((isAcquiring = false), emit('taken', id))"
  />
</template>

<style scoped>
.sources {
  flex-wrap: wrap;
}
</style>
