<script setup lang="ts">
import type { EntryValue } from '@clear-mark/core';
import type { UploadFile } from 'element-plus';
import { computed, type Ref, ref } from 'vue';
import type { ReadValue } from './cleave.model.ts';
import { LARGE, SMALL, useLivePicture } from './use-live-picture.ts';

/** The frame of a picture that is measured: camera, file or simulated picture above, what was found in the middle, taken into the sheet or refused below. */
const props = defineProps<{
  label: string;
  /** What the picture has to show, before there is one. */
  intro: string;
  /** What a simulated picture is called. */
  simulatedLabel: string;
  work: {
    readonly shot: Readonly<Ref<object | null>>;
    readonly busy: Readonly<Ref<boolean>>;
    readonly failure: Readonly<Ref<string | null>>;
    readonly isAway: Readonly<Ref<boolean>>;
    readonly take: (picture: Blob, name: string, source: 'file') => Promise<void>;
    readonly look: (frame: Blob) => Promise<boolean>;
    readonly simulate: () => Promise<void>;
    readonly drop: () => void;
    readonly keep: () => Promise<EntryValue | null>;
  };
  /** Why what is seen cannot be measured. */
  refused: string | null;
  value: ReadValue | null;
  unitWords: string;
  /** Whether the picture wants as many pixels as the camera has. */
  isLarge?: boolean;
  /** What goes into the sheet where the picture cannot be kept. */
  alone: EntryValue | null;
  /** What is taken, where it is not the value itself. */
  taking?: string;
}>();
const emit = defineEmits<{ close: []; value: [value: EntryValue, source: 'instrument' | 'typed'] }>();
const { shot, busy, failure, isAway } = props.work;
const camera = useLivePicture(
  async (frame) => {
    if (await props.work.look(frame)) camera.close();
  },
  props.isLarge ? LARGE : SMALL,
);
const isLive = ref(false);
async function openCamera(): Promise<void> {
  props.work.drop();
  isLive.value = true;
  await camera.open();
}
function leaveCamera(): void {
  isLive.value = false;
  camera.close();
}
async function fromFile({ raw }: UploadFile): Promise<void> {
  leaveCamera();
  if (raw) await props.work.take(raw, raw.name, 'file');
}
async function simulated(): Promise<void> {
  leaveCamera();
  await props.work.simulate();
}
const words = computed(() => failure.value ?? camera.failure.value);
async function take(): Promise<void> {
  const kept = await props.work.keep();
  if (!kept) return;
  emit('value', kept, 'instrument');
  emit('close');
}
function takeAlone(): void {
  if (!props.alone) return;
  emit('value', props.alone, 'typed');
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
      <el-button size="large" data-test="simulated" @click="simulated">{{ simulatedLabel }}</el-button>
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
    <p v-if="!shot && !isLive && !words" class="soft">{{ intro }}</p>
    <el-skeleton v-if="busy && !shot" :rows="4" animated />
    <template v-if="shot">
      <slot name="shot" />
      <p v-if="refused" class="notice bad" role="alert" data-test="refused">{{ refused }}</p>
      <div v-else class="row found">
        <slot name="choose" />
        <p v-if="value" class="figure" data-test="measured">
          <b>{{ value.text }}{{ unitWords }}</b>{{ ' ' }}
          <span class="soft">± {{ value.expanded }}{{ unitWords }}</span>
        </p>
        <p v-else class="figure"><b>No value</b></p>
        <slot name="found" />
      </div>
    </template>
    <template #footer>
      <el-button size="large" @click="emit('close')">Cancel</el-button>
      <el-button v-if="isAway" size="large" :disabled="!alone" @click="takeAlone"
        >Take the value alone</el-button
      >
      <el-button
        size="large"
        type="primary"
        :disabled="!alone"
        :loading="busy"
        data-test="take-measured"
        @click="take"
        >Take {{ value ? (taking ?? `${value.text}${unitWords}`) : '' }}</el-button
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
