<script setup lang="ts">
import { dayIn } from '@clear-mark/core';

/** The first and the last day of a class. */
const startsOn = defineModel<string>('startsOn', { required: true });
const endsOn = defineModel<string>('endsOn', { required: true });
defineProps<{ refused?: string | undefined }>();
const { timeZone } = Intl.DateTimeFormat().resolvedOptions();
const beforeStart = (day: Date): boolean => dayIn(timeZone, day) < startsOn.value;
</script>

<template>
  <el-form-item prop="startsOn" label="Starts">
    <el-date-picker v-model="startsOn" value-format="YYYY-MM-DD" format="D MMM YYYY" :clearable="false" />
  </el-form-item>
  <el-form-item prop="endsOn" label="Ends" :error="refused">
    <el-date-picker
      v-model="endsOn"
      value-format="YYYY-MM-DD"
      format="D MMM YYYY"
      :clearable="false"
      :disabled-date="beforeStart"
    />
  </el-form-item>
</template>
