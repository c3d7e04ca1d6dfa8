<script setup lang="ts">
import type { EntryValue } from '@clear-mark/core';
import type { UploadFile } from 'element-plus';
import { computed, ref } from 'vue';
import { CLASS_WORDS, REFUSAL_WORDS } from './cleave.model.ts';
import MeasuredShot from './MeasuredShot.vue';
import { useLivePicture } from './use-live-picture.ts';
import { useMeasured } from './use-measured.ts';

/** An end measured in a picture: from the camera as soon as it is held still, or from a file. Taken into the sheet or refused. */
const props = defineProps<{
  classId: string;
  attemptId: string;
  criterionId: string;
  label: string;
}>();
const emit = defineEmits<{ close: []; value: [value: EntryValue, source: 'instrument' | 'typed'] }>();
const work = useMeasured(() => props);
const { shot, ends, end, side, dragged, value, live, busy, failure, isAway } = work;
const camera = useLivePicture(async (frame) => {
  if (await work.look(frame)) camera.close();
});
const isLive = ref(false);
async function openCamera(): Promise<void> {
  work.drop();
  isLive.value = true;
  await camera.open();
}
function leaveCamera(): void {
  isLive.value = false;
  camera.close();
}
async function fromFile({ raw }: UploadFile): Promise<void> {
  leaveCamera();
  if (raw) await work.take(raw, raw.name, 'file');
}
async function simulated(): Promise<void> {
  leaveCamera();
  await work.simulate();
}
const refused = computed(() => {
  const reading = shot.value?.reading ?? live.value;
  return reading && !reading.ok ? REFUSAL_WORDS[reading.reason] : null;
});
const words = computed(() => failure.value ?? camera.failure.value);
async function take(): Promise<void> {
  const kept = await work.keep();
  if (!kept) return;
  emit('value', kept, 'instrument');
  emit('close');
}
function takeAlone(): void {
  if (!value.value) return;
  emit('value', { kind: 'measure', text: value.value.text, unit: 'deg' }, 'typed');
  emit('close');
}
</script>

<template>
  <el-dialog :model-value="true" :title="label" width="860" top="4vh" append-to-body @close="emit('close')">
    <div class="row tools">
      <el-button
        size="large"
        :type="shot ? 'default' : 'primary'"
        data-test="open-camera"
        @click="openCamera"
        >{{ shot ? 'Another by the camera' : 'Camera' }}</el-button
      >
      <el-upload
        :auto-upload="false"
        :show-file-list="false"
        accept="image/png,image/jpeg"
        :on-change="fromFile"
      >
        <template #trigger>
          <el-button size="large" tag="span">From a file</el-button>
        </template>
      </el-upload>
      <el-button size="large" data-test="simulated" @click="simulated">Simulated scope</el-button>
    </div>
    <p v-if="words" class="notice bad" role="alert">{{ words }}</p>
    <div v-if="isLive && !shot" class="live">
      <video
        v-show="camera.stream.value"
        :ref="(el) => (camera.video.value = el as HTMLVideoElement)"
        autoplay
        muted
        playsinline
      />
      <p role="status" class="soft">{{ refused ?? 'Hold it still: the value appears by itself.' }}</p>
    </div>
    <p v-if="!shot && !isLive && !words" class="soft">
      One end from the side, or two that face each other, with the light behind: from a cleave scope, a
      splicer’s screen or a photograph of it. Wear eye protection; offcuts go to the sharps container.
    </p>
    <el-skeleton v-if="busy && !shot" :rows="4" animated />
    <template v-if="shot">
      <MeasuredShot
        :shot="shot"
        :ends="ends"
        :side="side"
        :dragged="dragged"
        @drag="work.drag"
        @choose="work.choose"
      />
      <p v-if="refused" class="notice bad" role="alert" data-test="refused">{{ refused }}</p>
      <div v-else class="row found">
        <el-radio-group
          v-if="ends.length > 1"
          :model-value="side"
          size="large"
          aria-label="Which end"
          @update:model-value="work.choose($event as 'left' | 'right')"
        >
          <el-radio-button v-for="e in ends" :key="e.side" :value="e.side">{{
            e.side === 'left' ? 'Left end' : 'Right end'
          }}</el-radio-button>
        </el-radio-group>
        <p v-if="value" class="figure" data-test="measured">
          <b>{{ value.text }}°</b> <span class="soft">± {{ value.expanded }}°</span>
        </p>
        <p v-else class="figure"><b>No angle</b></p>
        <p v-if="end" class="soft">
          {{ CLASS_WORDS[end.class] }}{{ end.isDirty ? ', something lies on it' : ''
          }}{{ dragged ? ', line set by hand' : '' }}
        </p>
      </div>
    </template>
    <template #footer>
      <el-button size="large" @click="emit('close')">Cancel</el-button>
      <el-button v-if="isAway" size="large" :disabled="!value" @click="takeAlone"
        >Take the value alone</el-button
      >
      <el-button
        size="large"
        type="primary"
        :disabled="!value"
        :loading="busy"
        data-test="take-measured"
        @click="take"
        >Take {{ value ? `${value.text}°` : '' }}</el-button
      >
    </template>
  </el-dialog>
</template>

<style scoped>
.tools {
  margin-bottom: 8px;
}
video {
  width: 100%;
  max-height: 56vh;
  background: #000;
  display: block;
}
.found {
  align-items: baseline;
  gap: 8px 22px;
  margin-top: 10px;
}
.figure {
  font-size: 1.25rem;
  margin: 0;
}
.figure b {
  font-size: 1.75rem;
  font-variant-numeric: tabular-nums;
}
</style>
