<script setup lang="ts">
import type { FaceCriteria } from '@clear-mark/core';
import type { UploadFile } from 'element-plus';
import { ref } from 'vue';
import type { FaceView as Shows, StandInPicture } from '../engine/face-orders.ts';
import CameraPanel from './CameraPanel.vue';
import FerruleAndCriteria from './FerruleAndCriteria.vue';
import ScopePanel from './ScopePanel.vue';
import SlideDialog from './SlideDialog.vue';

/** Where a picture comes from, what it shows, and by which table it is graded. */
defineProps<{ tables: readonly FaceCriteria[]; kept: boolean; empty: boolean }>();
const shows = defineModel<Shows>('shows', { required: true });
const tableId = defineModel<string>('tableId', { required: true });
const emit = defineEmits<{
  file: [file: File];
  camera: [picture: Blob];
  scope: [picture: StandInPicture, name: string, again: boolean];
}>();
const slideOpen = ref(false);
const source = ref<'none' | 'camera' | 'scope'>('none');
const opened = ({ raw }: UploadFile): void => void (raw && emit('file', raw));
</script>

<template>
  <div class="row tools">
    <el-upload :auto-upload="false" :show-file-list="false" accept="image/png,image/jpeg" :on-change="opened">
      <template #trigger>
        <el-button size="large" tag="span" :type="source === 'none' && empty ? 'primary' : 'default'">
          Open a picture
        </el-button>
      </template>
    </el-upload>
    <el-button size="large" :aria-pressed="source === 'camera'" @click="source = 'camera'">Camera</el-button>
    <el-button size="large" :aria-pressed="source === 'scope'" @click="source = 'scope'">
      Simulated scope
    </el-button>
    <el-button size="large" text @click="slideOpen = true">Scale</el-button>
    <FerruleAndCriteria v-model:shows="shows" v-model:table-id="tableId" :tables="tables" :disabled="kept" />
  </div>
  <SlideDialog v-model="slideOpen" />
  <CameraPanel v-if="source === 'camera'" @taken="emit('camera', $event)" @close="source = 'none'" />
  <ScopePanel
    v-if="source === 'scope'"
    @taken="(picture, name, again) => emit('scope', picture, name, again)"
    @close="source = 'none'"
  />
</template>

<style scoped>
.tools {
  flex-wrap: wrap;
  margin-bottom: 8px;
}
</style>
