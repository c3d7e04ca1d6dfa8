<script setup lang="ts">
import type { ArchiveOutlook } from '@clear-mark/contract';
import type { UploadFile } from 'element-plus';
import { computed, shallowRef } from 'vue';
import { useRouter } from 'vue-router';
import { sendArchive } from '../../api/client.ts';
import { useAct } from '../../api/queries.ts';
import { useSession } from '../../session/session.ts';
import { dayText } from '../../shared/day-range.model.ts';
import { momentWords } from '../../shared/time-words.ts';
import { amountsOf, METHOD_WORDS, personWords } from './archive.model.ts';

/** A class that comes from elsewhere: its archive is looked through first, then all of it is taken in or nothing. */
const emit = defineEmits<{ close: [] }>();
const session = useSession();
const router = useRouter();
const { failure, busy, act } = useAct();
const file = shallowRef<Blob | null>(null);
const outlook = shallowRef<ArchiveOutlook | null>(null);
const amounts = computed(() => (outlook.value ? amountsOf(outlook.value) : []));

async function open({ raw }: UploadFile): Promise<void> {
  outlook.value = null;
  if (!raw) return;
  file.value = raw;
  await act(async () => {
    outlook.value = await sendArchive('look', raw);
  });
}
async function take(): Promise<void> {
  await act(async () => {
    const { classId } = await sendArchive('take', file.value!);
    await session.refresh();
    await router.push({ name: 'setup', params: { classId } });
    emit('close');
  });
}
</script>

<template>
  <el-dialog
    model-value
    title="A class from an archive"
    width="min(760px, 94vw)"
    align-center
    :close-on-click-modal="!busy"
    @close="emit('close')"
  >
    <p class="soft">
      An archive holds a whole class of another school: its records with their chain, pictures, people and
      methods. Whoever hands it over can have written it: take in only what you trust.
    </p>
    <el-upload :auto-upload="false" :show-file-list="false" accept=".zip,application/zip" :on-change="open">
      <template #trigger>
        <el-button size="large" tag="span" :disabled="busy">{{
          outlook ? 'Another archive' : 'Open an archive'
        }}</el-button>
      </template>
    </el-upload>
    <el-progress v-if="busy" class="busy" :percentage="100" :indeterminate="true" :show-text="false" />
    <p v-if="busy" class="soft" role="status">
      {{ outlook ? 'The class is taken in. Its records are checked.' : 'The archive is looked through.' }}
    </p>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <div v-if="outlook" data-test="outlook">
      <h2>{{ outlook.className }}</h2>
      <p class="soft">
        {{ outlook.place }} · {{ dayText(outlook.startsOn) }} to {{ dayText(outlook.endsOn) }} · archive of
        {{ momentWords(outlook.madeAt, 'short') }}
      </p>
      <p v-if="outlook.here" class="notice">This class is here already, with the same content.</p>
      <ul class="amounts">
        <li v-for="a in amounts" :key="a.label"><b>{{ a.text }}</b> {{ a.label }}</li>
      </ul>
      <el-table :data="outlook.people" max-height="176" scrollbar-tabindex="0">
        <el-table-column prop="name" label="Name" min-width="170" />
        <el-table-column prop="role" label="Role" width="110" />
        <el-table-column label="What becomes of the account" min-width="280">
          <template #default="{ row }: { row: ArchiveOutlook['people'][number] }">{{
            personWords(row)
          }}</template>
        </el-table-column>
      </el-table>
      <el-table :data="outlook.methods" max-height="176" scrollbar-tabindex="0">
        <el-table-column prop="title" label="Method" min-width="220" />
        <el-table-column prop="version" label="Version" width="90" align="right" />
        <el-table-column label="What becomes of it" min-width="260">
          <template #default="{ row }: { row: ArchiveOutlook['methods'][number] }">{{
            METHOD_WORDS[row.is]
          }}</template>
        </el-table-column>
      </el-table>
    </div>
    <template #footer>
      <el-button size="large" :disabled="busy" @click="emit('close')">Cancel</el-button>
      <el-button
        size="large"
        type="primary"
        :disabled="busy || outlook === null || outlook.here"
        :loading="busy && outlook !== null"
        @click="take"
        >Take the class in</el-button
      >
    </template>
  </el-dialog>
</template>

<style scoped>
h2 {
  margin-top: 14px;
}
p.soft + div {
  margin-top: 10px;
}
.busy {
  margin: 12px 0 4px;
}
.amounts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
  list-style: none;
  padding: 0;
  margin: 8px 0;
}
.el-table + .el-table {
  margin-top: 10px;
}
</style>
