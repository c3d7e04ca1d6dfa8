<script setup lang="ts">
import { isTradeThing, linkFindings, type ThingKind, thingsInOrder } from '@clear-mark/core';
import { linkOfAttempt } from '@clear-mark/methods/loss';
import type { OpenAttempt } from '@clear-mark/contract';
import { thingWords } from '@clear-mark/words';
import { v7 } from 'uuid';
import { computed, onMounted, reactive, ref, toRaw } from 'vue';
import { useRouter } from 'vue-router';
import { labelOfPiece } from '../../shared/initials.ts';
import { useSession } from '../../session/session.ts';
import { useClassroom } from '../../classroom/use-classroom.ts';
import { useQueue } from '../../storage/queue.ts';
import type { Bench } from './today.model.ts';
import ChoiceField from '../../shared/ChoiceField.vue';

/** Starts a piece: the last method and what was used last are offered, so that a second tap is enough. */
const props = defineProps<{ classId: string; bench: Bench }>();
const emit = defineEmits<{ close: [] }>();
const session = useSession();
const classroom = useClassroom();
const queue = useQueue();
const router = useRouter();
const tile = computed(() => props.bench.tile);

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
const detail = computed(() => classroom.detail);
const things = reactive<Partial<Record<ThingKind, string>>>({});
const versionId = ref('');
const label = ref('');
const linkId = ref('');
const busy = ref(false);

const methods = computed(() => detail.value?.methods.filter((m) => m.inUse) ?? []);
/** Methods of a link are offered the class's links; the method's own stays the first choice. */
const chosen = computed(() => methods.value.find((m) => m.versionId === versionId.value));
const links = computed(() =>
  /loss-|mpo-trunk|continuity/.test(chosen.value?.methodId ?? '')
    ? (detail.value?.links ?? []).filter((l) => !l.retired && !linkFindings(l.plan).some((f) => f.stops))
    : [],
);
const furtherKinds = computed(() =>
  thingsInOrder(detail.value?.things.map((t) => t.kind) ?? []).filter((kind) => !isTradeThing(kind)),
);
const offered = computed(() =>
  [...KINDS, ...furtherKinds.value]
    .map((kind) => ({
      kind,
      // Lots are taken from the stock by themselves.
      list: detail.value?.things.filter((t) => t.kind === kind && !t.retired && !t.item) ?? [],
    }))
    .filter((o) => o.list.length > 0),
);

function suggestedLabel(): string {
  // Pieces that were started without the network count as well.
  const here = props.bench.open.filter((a) => a.attempt.entries.length === 0).length;
  const known = new Set(props.bench.open.map((a) => a.attempt.pieceLabel));
  let number = tile.value.pieces + 1;
  const named = (n: number): string => labelOfPiece(tile.value.traineeName, n);
  while (known.has(named(number)) && number <= tile.value.pieces + here + 1) number += 1;
  return named(number);
}

onMounted(() => {
  label.value = suggestedLabel();
  const last = methods.value.find((m) => m.versionId === tile.value.lastVersionId);
  versionId.value = (last ?? methods.value[0])?.versionId ?? '';
  for (const t of detail.value?.things ?? []) {
    if (tile.value.lastThingIds.includes(t.id) && !t.retired && !t.item) things[t.kind] = t.id;
  }
});

/** Kept on the device first, like an entry: a piece can be started without a network. */
async function start(): Promise<void> {
  busy.value = true;
  const now = new Date().toISOString();
  const link = links.value.find((l) => l.id === linkId.value) ?? null;
  const thingIds = Object.values(things).filter((id): id is string => Boolean(id));
  const body = {
    id: v7(),
    traineeId: tile.value.traineeId,
    methodVersionId: versionId.value,
    pieceId: v7(),
    pieceLabel: label.value.trim(),
    thingIds,
    startedAt: now,
    deviceId: session.deviceId,
    sentAt: now,
    linkId: link?.id ?? null,
  };
  const used = (detail.value?.things ?? []).filter((t) => thingIds.includes(t.id));
  classroom.adopt({
    id: body.id,
    traineeId: body.traineeId,
    traineeName: tile.value.traineeName,
    methodVersionId: body.methodVersionId,
    pieceId: body.pieceId,
    pieceLabel: body.pieceLabel,
    startedAt: now,
    schools: detail.value?.schools ?? {},
    things: used,
    entries: [],
    link: link ? (structuredClone(linkOfAttempt(toRaw(link))) as OpenAttempt['link']) : null,
  });
  await queue.pushStart(props.classId, body, session.me!.id);
  await router.push({ name: 'sheet', params: { classId: props.classId, attemptId: body.id } });
  emit('close');
}
</script>

<template>
  <el-dialog :model-value="true" :title="tile.traineeName" width="600" append-to-body @close="emit('close')">
    <p v-if="detail && methods.length === 0" class="notice">
      No method is in use in this class.
      <RouterLink :to="{ name: 'setup', params: { classId }, query: { view: 'methods' } }"
        >Choose one in Class.</RouterLink
      >
    </p>
    <ChoiceField
      v-model="versionId"
      label="Method"
      :options="methods.map((m) => ({ value: m.versionId, label: m.title }))"
    />
    <ChoiceField
      v-if="links.length > 0"
      v-model="linkId"
      label="Link under test"
      none="the method’s own"
      data-test="link"
      :options="links.map((l) => ({ value: l.id, label: l.label }))"
    />
    <label class="field">
      <span>Label on the piece</span>
      <el-input v-model="label" maxlength="60" />
    </label>
    <div class="things">
      <ChoiceField
        v-for="o in offered"
        :key="o.kind"
        :model-value="things[o.kind] ?? ''"
        :label="thingWords(o.kind)"
        none="none"
        :options="o.list.map((t) => ({ value: t.id, label: t.label }))"
        @change="(id) => (things[o.kind] = id)"
      />
    </div>
    <el-button
      size="large"
      type="primary"
      class="wide"
      :disabled="busy || versionId === '' || label.trim() === ''"
      @click="start"
    >
      Start the piece
    </el-button>
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
.field :deep(.choice) {
  width: 100%;
}
.wide {
  width: 100%;
  min-height: 56px;
  font-size: 1.125rem;
  margin-top: 8px;
}
</style>
