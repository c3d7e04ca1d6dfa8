<script setup lang="ts">
import { dayIn, daysAfter } from '@clear-mark/core';
import { v7 } from 'uuid';
import { reactive, ref } from 'vue';
import { useRouter } from 'vue-router';
import { request, ROUTES, wordsOf } from '../../api/client.ts';
import { useSession } from '../../session/session.ts';
import PeoplePanel from './PeoplePanel.vue';

const session = useSession();
const router = useRouter();
const { timeZone } = Intl.DateTimeFormat().resolvedOptions();
const today = dayIn(timeZone, new Date());
const form = reactive({ name: '', place: '', timeZone, startsOn: today, endsOn: daysAfter(today, 28) });
const failure = ref<string | null>(null);

async function add(): Promise<void> {
  failure.value = null;
  try {
    const made = await request(ROUTES.addClass, { body: { id: v7(), ...form } });
    await session.refresh();
    await router.push({ name: 'setup', params: { classId: made.id } });
  } catch (error) {
    failure.value = wordsOf(error);
  }
}
</script>

<template>
  <div class="page">
    <h1>Classes</h1>
    <section class="section">
      <p v-if="session.classes.length === 0" class="soft">No class yet. The first one is made below.</p>
      <ul class="list">
        <li v-for="c in session.classes" :key="c.id">
          <RouterLink class="act" :to="{ name: 'today', params: { classId: c.id } }">{{ c.name }}</RouterLink>
          <span class="soft">{{ c.place }} · {{ c.startsOn }} to {{ c.endsOn }}</span>
        </li>
      </ul>
    </section>
    <section class="section">
      <h2>New class</h2>
      <form class="form" @submit.prevent="add">
        <label class="field"><span>Name</span><el-input v-model="form.name" name="class-name" /></label>
        <label class="field"><span>Place</span><el-input v-model="form.place" name="class-place" /></label>
        <label class="field"><span>Time zone</span><el-input v-model="form.timeZone" /></label>
        <label class="field"><span>Starts</span><el-input v-model="form.startsOn" type="date" /></label>
        <label class="field"><span>Ends</span><el-input v-model="form.endsOn" type="date" /></label>
        <el-button size="large" type="primary" native-type="submit" :disabled="form.name.trim() === ''"
          >Make the class</el-button
        >
      </form>
      <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    </section>
    <PeoplePanel v-if="session.me?.role === 'lead'" />
  </div>
</template>

<style scoped>
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
.form {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(210px, 1fr));
  gap: 10px 14px;
  align-items: end;
  margin-top: 8px;
}
</style>
