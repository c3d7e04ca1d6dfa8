<script setup lang="ts">
import { dayIn, daysAfter } from '@clear-mark/core';
import { type ClassSummary, NewClassBody } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { computed, ref, shallowRef } from 'vue';
import { useRouter } from 'vue-router';
import { request, ROUTES } from '../../api/client.ts';
import { useSession } from '../../session/session.ts';
import { dayText } from '../../shared/day-range.model.ts';
import TimeZoneField from '../../shared/TimeZoneField.vue';
import ArchiveDialog from './ArchiveDialog.vue';
import ClassDays from './ClassDays.vue';
import CheckedForm from '../../shared/CheckedForm.vue';
import CopyClassDialog from './CopyClassDialog.vue';
import { useForm } from '../../shared/use-form.ts';
import TextField from '../../shared/TextField.vue';

const session = useSession();
const router = useRouter();
const { timeZone } = Intl.DateTimeFormat().resolvedOptions();
const today = dayIn(timeZone, new Date());
const checked = useForm(
  NewClassBody,
  { id: v7(), name: '', place: '', timeZone, startsOn: today, endsOn: daysAfter(today, 28) },
  { 'class.bad_time_zone': 'timeZone', 'class.dates_crossed': 'endsOn' },
);
const { values, refused, failure, busy, send } = checked;
const add = (): Promise<boolean> =>
  send(async (body) => {
    const made = await request(ROUTES.addClass, { body });
    await session.refresh();
    await router.push({ name: 'setup', params: { classId: made.id } });
  });
const copied = shallowRef<ClassSummary | null>(null);
const taking = ref(false);
const isLead = computed(() => session.me?.role === 'lead');
</script>

<template>
  <div class="page">
    <div class="row head">
      <h1>Classes</h1>
      <RouterLink v-if="isLead" class="act" :to="{ name: 'accounts' }">Everybody’s accounts</RouterLink>
    </div>
    <section class="section">
      <p v-if="session.classes.length === 0" class="soft">No class yet. The first one is made below.</p>
      <ul class="list">
        <li v-for="c in session.classes" :key="c.id">
          <RouterLink class="act" :to="{ name: 'today', params: { classId: c.id } }">{{ c.name }}</RouterLink>
          <span class="soft where">{{ c.place }} · {{ dayText(c.startsOn) }} to {{ dayText(c.endsOn) }}</span>
          <el-button size="large" :aria-label="`Make one like ${c.name}`" @click="copied = c"
            >Make one like it</el-button
          >
        </li>
      </ul>
      <el-button v-if="isLead" class="take" size="large" @click="taking = true"
        >Take a class in from an archive</el-button
      >
    </section>
    <ArchiveDialog v-if="taking" @close="taking = false" />
    <CopyClassDialog v-if="copied" :key="copied.id" :from="copied" @close="copied = null" />
    <section class="section">
      <h2>New class</h2>
      <CheckedForm :of="checked" class="form" @send="add">
        <TextField v-model="values.name" prop="name" label="Name" name="class-name" />
        <TextField v-model="values.place" prop="place" label="Place" name="class-place" />
        <el-form-item prop="timeZone" label="Time zone" :error="refused['timeZone']">
          <TimeZoneField v-model="values.timeZone" aria-label="Time zone" />
        </el-form-item>
        <ClassDays
          v-model:starts-on="values.startsOn"
          v-model:ends-on="values.endsOn"
          :refused="refused['endsOn']"
        />
        <el-button size="large" type="primary" native-type="submit" :loading="busy">Make the class</el-button>
      </CheckedForm>
      <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    </section>
  </div>
</template>

<style scoped>
.head {
  justify-content: space-between;
}
.list {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 8px;
}
.list li {
  display: flex;
  gap: 12px;
  align-items: center;
}
.take {
  margin-top: 14px;
}
.form {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  gap: 10px 14px;
  align-items: start;
  margin-top: 8px;
}
.form > .el-button {
  margin-top: 28px;
}
.form :deep(.el-date-editor) {
  width: 100%;
}
</style>
