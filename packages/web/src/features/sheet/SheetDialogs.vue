<script setup lang="ts">
import { type CordStamp, type Hazard, STOP_PART } from '@clear-mark/core';
import { computed, ref } from 'vue';
import { wordsOf } from '../../api/client.ts';
import KeysDialog from './KeysDialog.vue';
import { RereadDialog } from '../references/index.ts';
import NoteDialog from './NoteDialog.vue';
import ReferenceDialog from './ReferenceDialog.vue';
import SignDialog from './SignDialog.vue';
import StopDialog from './StopDialog.vue';
import type { SheetState } from './use-sheet.ts';
import type { DialogName } from './cursor.model.ts';
import type { SheetCursor } from './use-sheet-cursor.ts';

/** The dialogs of a sheet, one at a time, and what is entered in them. */
const props = defineProps<{
  sheet: SheetState;
  cursor: SheetCursor;
  classId: string;
  attemptId: string;
  instrumentId: string | null;
  cord: CordStamp | null;
}>();
const dialog = defineModel<DialogName | null>({ required: true });
const close = (): void => void (dialog.value = null);

const trainee = computed(() => props.sheet.document.value?.attempt.traineeName ?? '');
const atHand = computed(() => props.cursor.current.value ?? props.sheet.criteria.value[0] ?? null);
/** The references that this sheet's readings point at. */
const usedReferences = computed(() => {
  const ids = new Set(
    props.sheet.entries.value.flatMap((e) => (e.value?.kind === 'loss' ? [e.value.referenceId] : [])),
  );
  return props.sheet.references.value.filter((r) => ids.has(r.id));
});
const signFailure = ref<string | null>(null);

function note(text: string): void {
  props.sheet.add({ kind: 'note', criterionId: atHand.value!.criterion.id, note: text });
  close();
}
/** Ends the piece for safety, at the criterion at hand. */
function stopPiece(hazard: Hazard, words: string | null): void {
  const criterionId = atHand.value!.criterion.id;
  props.sheet.add({
    kind: 'stop',
    criterionId,
    part: STOP_PART,
    value: { kind: 'stop', hazard },
    note: words,
  });
  close();
}
async function sign(reason: string | null, asVoid: boolean): Promise<void> {
  signFailure.value = null;
  try {
    await props.sheet.sign(reason, asVoid);
    close();
  } catch (error) {
    signFailure.value = wordsOf(error);
    await props.sheet.load();
  }
}
function leaveSigning(): void {
  signFailure.value = null;
  close();
}
</script>

<template>
  <NoteDialog
    v-if="dialog === 'note' && atHand"
    :label="atHand.criterion.label"
    :notes="cursor.notes.value"
    @close="close"
    @note="note"
  />
  <SignDialog
    v-if="dialog === 'sign' && sheet.ifSigned.value"
    :if-signed="sheet.ifSigned.value"
    :criteria="sheet.criteria.value"
    :pending="sheet.pending.value"
    :trainee="trainee"
    :failure="signFailure"
    @close="leaveSigning"
    @sign="sign"
  />
  <ReferenceDialog
    v-if="dialog === 'reference' && cursor.lossItem.value"
    :attempt-id="attemptId"
    :class-id="classId"
    :criterion="cursor.lossItem.value"
    :instrument-id="instrumentId"
    :cord="cord"
    @close="close"
    @made="sheet.addReference"
  />
  <RereadDialog
    v-if="dialog === 'reread' && cursor.lossItem.value"
    :class-id="classId"
    :references="usedReferences"
    :most-drift-db="cursor.lossItem.value.rules.driftLimitDb.db"
    @close="close"
    @changed="sheet.addReference"
  />
  <StopDialog
    v-if="dialog === 'stop' && atHand"
    :trainee="trainee"
    :at="atHand.step.title"
    @close="close"
    @stop="stopPiece"
  />
  <KeysDialog v-if="dialog === 'keys'" @close="close" />
</template>
