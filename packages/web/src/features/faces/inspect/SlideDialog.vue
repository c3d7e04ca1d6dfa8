<script setup lang="ts">
import type { MeasuredSlide } from '@clear-mark/core';
import { SLIDE_REFUSAL_WORDS } from '@clear-mark/words';
import type { UploadFile } from 'element-plus';
import { onScopeDispose, ref, shallowRef } from 'vue';
import ChoiceField from '../../../shared/ChoiceField.vue';
import { momentWords } from '../../../shared/time-words.ts';
import { slideClient } from '../engine/face-client.ts';
import { PROBLEM_WORDS } from '../../../pictures/picture-problems.ts';
import { useSlideScale } from './use-slide-scale.ts';

/** The scale of the microscope from a picture of its calibration slide: for pictures in which no cladding shows. */
const open = defineModel<boolean>({ required: true });
const { scale, keep } = useSlideScale();
const worker = slideClient();
onScopeDispose(() => worker.end());
const divisionUm = ref(10);
const isBusy = ref(false);
const failure = ref<string | null>(null);
const found = shallowRef<(MeasuredSlide & { ok: true }) | null>(null);

function measure({ raw, name }: UploadFile): void {
  if (!raw) return;
  [found.value, failure.value, isBusy.value] = [null, null, true];
  const fail = (words: string): void => void ([failure.value, isBusy.value] = [words, false]);
  worker.ask(
    { picture: raw, divisionUm: divisionUm.value },
    (news) => {
      if ('problem' in news) return fail(PROBLEM_WORDS[news.problem](name));
      if (!news.found.ok) return fail(SLIDE_REFUSAL_WORDS[news.found.reason]);
      [found.value, isBusy.value] = [news.found, false];
    },
    () => fail('The picture could not be measured.'),
  );
}
function use(): void {
  const { umPerPx, uncertainty } = found.value!;
  keep({ umPerPx, uncertainty, takenAt: new Date().toISOString() });
  [found.value, open.value] = [null, false];
}
const percent = (share: number): string => `${Math.max(0.01, 100 * share).toFixed(2)} %`;
</script>

<template>
  <el-dialog v-model="open" title="Scale by a calibration slide" width="560" append-to-body>
    <p>
      Where a cladding shows, it gives the scale. For other pictures take one of a slide with even lines, at
      the same zoom and focus, and say how far apart its lines are.
    </p>
    <div class="row from">
      <ChoiceField
        v-model="divisionUm"
        label="From line to line"
        :options="[5, 10, 20, 50, 100].map((um) => ({ value: um, label: `${um} µm` }))"
      />
      <el-upload
        :auto-upload="false"
        :show-file-list="false"
        accept="image/png,image/jpeg"
        :on-change="measure"
      >
        <template #trigger>
          <el-button size="large" tag="span" :type="found ? 'default' : 'primary'"
            >Open its picture</el-button
          >
        </template>
      </el-upload>
    </div>
    <div aria-live="polite">
      <p v-if="isBusy" role="status">Looking for the lines</p>
      <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
      <template v-if="found">
        <p class="figure" data-test="slide">
          {{ found.umPerPx.toFixed(4) }}<span class="unit">µm a pixel</span>
        </p>
        <p>
          ± {{ percent(found.uncertainty) }} by {{ found.lines }} lines, {{ found.pitchPx.toFixed(1) }} pixels
          apart. What the slide itself is off by comes on top.
        </p>
      </template>
    </div>
    <p v-if="scale && !found" class="row">
      <span>
        Kept: {{ scale.umPerPx.toFixed(4) }} µm a pixel, of {{ momentWords(scale.takenAt, 'full') }}.
      </span>
      <el-button size="large" @click="keep(null)">Remove it</el-button>
    </p>
    <template #footer>
      <el-button size="large" @click="open = false">Close</el-button>
      <el-button size="large" type="primary" :disabled="!found" @click="use">Use this scale</el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.from {
  align-items: end;
  margin-top: 10px;
}
</style>
