<script setup lang="ts">
import type { Person, Role } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { reactive, ref } from 'vue';
import { request, ROUTES } from '../../api/client.ts';
import { useAct, useReply } from '../../api/queries.ts';
import ChoiceField from '../../shared/ChoiceField.vue';

/** The lead makes the accounts of the others. */
const { found: people, again } = useReply(ROUTES.people, () => ({}));
const form = reactive<{ name: string; login: string; role: Role; password: string }>({
  name: '',
  login: '',
  role: 'instructor',
  password: '',
});
const { failure, act } = useAct();
const made = ref<string | null>(null);

async function add(): Promise<void> {
  made.value = null;
  await act(async () => {
    const person = await request(ROUTES.addPerson, { body: { id: v7(), ...form } });
    made.value = `${person.name} can sign in as ${person.login}.`;
    Object.assign(form, { name: '', login: '', password: '' });
    await again();
  });
}
</script>

<template>
  <section class="section">
    <h2>Accounts</h2>
    <form class="form" @submit.prevent="add">
      <label class="field"><span>Name</span><el-input v-model="form.name" name="person-name" /></label>
      <label class="field"
        ><span>Sign-in name</span><el-input v-model="form.login" name="person-login"
      /></label>
      <ChoiceField
        v-model="form.role"
        label="Role"
        :options="(['lead', 'instructor', 'trainee'] as const).map((r) => ({ value: r, label: r }))"
      />
      <label class="field"
        ><span>First password</span
        ><el-input v-model="form.password" name="person-password" type="password" autocomplete="new-password"
      /></label>
      <el-button size="large" type="primary" native-type="submit">Make the account</el-button>
    </form>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <p v-if="made" class="soft" role="status">{{ made }}</p>
    <el-table :data="(people ?? []) as Person[]" row-key="id">
      <el-table-column prop="name" label="Name" sortable min-width="200" />
      <el-table-column prop="role" label="Role" sortable width="140" />
      <el-table-column prop="login" label="Sign-in name" sortable min-width="180">
        <template #default="{ row }: { row: Person }">
          <span class="soft">{{ row.login.startsWith('t-') ? 'no account' : row.login }}</span>
        </template>
      </el-table-column>
    </el-table>
  </section>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(210px, 1fr));
  gap: 10px 14px;
  align-items: end;
  margin: 8px 0 14px;
}
</style>
