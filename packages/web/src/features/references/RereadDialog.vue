<script setup lang="ts">
import { driftHolds, type ReadingVoidReason, readTyped } from '@clear-mark/core';
import type { ClassReference } from '@clear-mark/contract';
import { LIGHT_WORDS, REFERENCE_WORDS, typedProblem, VOID_WORDS } from '@clear-mark/words';
import { v7 } from 'uuid';
import { computed, reactive, ref } from 'vue';
import { request, ROUTES, wordsOf } from '../../api/client.ts';
import { useClassroom } from '../../classroom/use-classroom.ts';
import { timeOfDay } from '../../shared/time-words.ts';
import { driftOf } from './references.model.ts';

/** At the end of a set: each reference read again, or voided; what it moved by is said before it is kept. */
const props = defineProps<{
  classId: string;
  references: readonly ClassReference[];
  /** How far a reference may move, dB. */
  mostDriftDb: number;
}>();
const emit = defineEmits<{ close: []; changed: [reference: ClassReference] }>();
const classroom = useClassroom();
const texts = reactive<Record<string, string>>({});
const failure = ref<string | null>(null);
const saving = ref(false);

const lines = computed(() =>
  props.references.map((reference) => {
    const text = (texts[reference.id] ?? '').trim();
    const typed = readTyped(text, { least: -110, most: 40 });
    const problem = text === '' ? null : typedProblem(typed, 'a level', 'dBm');
    const drift =
      typed.kind === 'number' ? driftOf({ ...reference, rereadDbm: typed.text }) : driftOf(reference);
    return {
      reference,
      typed,
      problem,
      drift,
      holds: drift === null || driftHolds(drift, props.mostDriftDb),
    };
  }),
);
const ready = computed(
  () => lines.value.some((l) => l.typed.kind === 'number') && lines.value.every((l) => l.problem === null),
);

async function change(
  reference: ClassReference,
  body: Parameters<typeof request<typeof ROUTES.changeReference>>[1]['body'],
): Promise<void> {
  const changed = await request(ROUTES.changeReference, {
    params: { id: props.classId, referenceId: reference.id },
    body,
  });
  classroom.addReference(changed);
  emit('changed', changed);
}
/** What is typed stays until it is kept: a line that fails can be sent again. */
async function run(act: () => Promise<void>): Promise<boolean> {
  failure.value = null;
  saving.value = true;
  try {
    await act();
    return true;
  } catch (error) {
    failure.value = wordsOf(error);
    return false;
  } finally {
    saving.value = false;
  }
}
async function save(): Promise<void> {
  const done = await run(async () => {
    for (const { reference, typed } of lines.value) {
      if (typed.kind !== 'number') continue;
      await change(reference, { change: 'reread', id: v7(), valueDbm: typed.text });
      texts[reference.id] = '';
    }
  });
  if (done) emit('close');
}
const voidIt = (reference: ClassReference, reason: ReadingVoidReason): Promise<boolean> =>
  run(() => change(reference, { change: 'void', id: v7(), reason }));
const signed = (db: number): string => `${db > 0 ? '+' : ''}${db.toFixed(2)}`;
</script>

<template>
  <el-dialog
    :model-value="true"
    title="Read the references again"
    width="760"
    append-to-body
    data-test="reread"
    @close="emit('close')"
  >
    <p class="soft">
      Put the cords together as they were for the reference, and read each level again. A reference that moved
      by more than {{ mostDriftDb }} dB makes what was read with it void; one that holds narrows the
      uncertainty.
    </p>
    <p v-if="references.length === 0" class="notice">No reference was set yet.</p>
    <div
      v-for="line in lines"
      :key="line.reference.id"
      class="line"
      :data-reference="line.reference.wavelengthNm"
    >
      <div>
        <b>{{ line.reference.wavelengthNm }} nm</b>
        <span v-if="line.reference.leg" class="soft">, leg {{ line.reference.leg }}</span>
        <p class="small soft">
          {{ line.reference.valueDbm }} dBm, {{ line.reference.instrumentLabel }},
          {{ timeOfDay(line.reference.setAt) }}, {{ REFERENCE_WORDS[line.reference.method]
          }}<template v-if="line.reference.light"
            >, {{ LIGHT_WORDS[line.reference.light].toLowerCase() }}</template
          >
        </p>
      </div>
      <el-input
        v-model="texts[line.reference.id]"
        size="large"
        inputmode="text"
        :placeholder="line.reference.rereadDbm ?? 'dBm'"
        :disabled="line.reference.voidReason !== null"
        :aria-label="`Level at ${line.reference.wavelengthNm} nm, read again, dBm`"
      />
      <p class="drift" aria-live="polite">
        <template v-if="line.reference.voidReason"
          >Void: {{ VOID_WORDS[line.reference.voidReason] }}</template
        >
        <template v-else-if="line.problem">{{ line.problem }}</template>
        <template v-else-if="line.drift !== null">
          <b>{{ signed(line.drift) }} dB</b>
          <span class="soft">{{ line.holds ? ' holds' : ` moved too far: readings are void` }}</span>
        </template>
      </p>
      <el-dropdown
        v-if="line.reference.voidReason === null"
        trigger="click"
        @command="(reason: ReadingVoidReason) => voidIt(line.reference, reason)"
      >
        <el-button size="large">Void</el-button>
        <template #dropdown>
          <el-dropdown-menu>
            <el-dropdown-item v-for="(words, code) in VOID_WORDS" :key="code" :command="code">{{
              words
            }}</el-dropdown-item>
          </el-dropdown-menu>
        </template>
      </el-dropdown>
    </div>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <template #footer>
      <el-button size="large" @click="emit('close')">Close</el-button>
      <el-button size="large" type="primary" :disabled="!ready" :loading="saving" @click="save">
        Save what was read
      </el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: minmax(0, 1.6fr) 130px minmax(0, 1fr) auto;
  gap: 6px 14px;
  align-items: center;
  border-top: 1px solid var(--hair);
  padding: 10px 0;
}
.line:first-of-type {
  margin-top: 12px;
}
@media (max-width: 700px) {
  .line {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
