<script setup lang="ts">
import type { ThingKind } from '@clear-mark/core';
import type { BoardTile, ClassDetail } from '@clear-mark/contract';
import { THING_WORDS } from '@clear-mark/words';
import { v7 } from 'uuid';
import { computed, onMounted, reactive, ref, shallowRef } from 'vue';
import { useRouter } from 'vue-router';
import { call, ROUTES, wordsOf } from '../../api/client.ts';
import { useSession } from '../../shell/session.ts';

const props = defineProps<{ classId: string; tile: BoardTile }>();
const emit = defineEmits<{ close: [] }>();
const session = useSession();
const router = useRouter();

const KINDS: readonly ThingKind[] = [
  'bench',
  'cleaver',
  'scope',
  'instrument',
  'cord',
  'splicer',
  'film',
  'batch',
];
const detail = shallowRef<ClassDetail | null>(null);
const things = reactive<Partial<Record<ThingKind, string>>>({});
const versionId = ref('');
const label = ref('');
const failure = ref<string | null>(null);
const busy = ref(false);

const methods = computed(() => detail.value?.methods.filter((m) => m.inUse) ?? []);
const offered = computed(() =>
  KINDS.map((kind) => ({
    kind,
    list: detail.value?.things.filter((t) => t.kind === kind && !t.retired) ?? [],
  })).filter((o) => o.list.length > 0),
);

function suggestedLabel(): string {
  const initials = props.tile.traineeName
    .split(/\s+/)
    .map((part) => part[0])
    .join('');
  return `${initials}-${String(props.tile.pieces + 1).padStart(2, '0')}`;
}

onMounted(async () => {
  label.value = suggestedLabel();
  try {
    detail.value = await call(ROUTES.classDetail, { params: { id: props.classId } });
    versionId.value = methods.value[0]?.versionId ?? '';
    for (const t of detail.value.things) {
      if (props.tile.lastThingIds.includes(t.id) && !t.retired) things[t.kind] = t.id;
    }
  } catch (error) {
    failure.value = wordsOf(error);
  }
});

async function start(): Promise<void> {
  busy.value = true;
  failure.value = null;
  const now = new Date().toISOString();
  try {
    const { attemptId } = await call(ROUTES.startAttempt, {
      params: { id: props.classId },
      body: {
        id: v7(),
        traineeId: props.tile.traineeId,
        methodVersionId: versionId.value,
        pieceId: v7(),
        pieceLabel: label.value.trim(),
        thingIds: Object.values(things).filter((id): id is string => Boolean(id)),
        startedAt: now,
        deviceId: session.deviceId,
        sentAt: now,
      },
    });
    await router.push({ name: 'sheet', params: { classId: props.classId, attemptId } });
    emit('close');
  } catch (error) {
    failure.value = wordsOf(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <el-dialog :model-value="true" :title="tile.traineeName" width="600" append-to-body @close="emit('close')">
    <p v-if="detail && methods.length === 0" class="notice">
      No method is in use in this class.
      <RouterLink :to="{ name: 'setup', params: { classId } }">Choose one in Class.</RouterLink>
    </p>
    <label class="field">
      <span>Method</span>
      <select v-model="versionId" class="act">
        <option v-for="m in methods" :key="m.versionId" :value="m.versionId">{{ m.title }}</option>
      </select>
    </label>
    <label class="field">
      <span>Label on the piece</span>
      <el-input v-model="label" maxlength="60" />
    </label>
    <div class="things">
      <label v-for="o in offered" :key="o.kind" class="field">
        <span>{{ THING_WORDS[o.kind] }}</span>
        <select v-model="things[o.kind]" class="act">
          <option :value="undefined">none</option>
          <option v-for="t in o.list" :key="t.id" :value="t.id">{{ t.label }}</option>
        </select>
      </label>
    </div>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <button
      class="act next wide"
      type="button"
      :disabled="busy || versionId === '' || label.trim() === ''"
      @click="start"
    >
      Start the piece
    </button>
  </el-dialog>
</template>

<style scoped>
.field {
  margin-bottom: 10px;
}
.things {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(160px, 1fr));
  gap: 0 12px;
}
select.act {
  width: 100%;
  justify-content: flex-start;
}
.wide {
  width: 100%;
  min-height: 56px;
  font-size: 1.125rem;
  margin-top: 8px;
}
</style>
