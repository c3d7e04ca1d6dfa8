<script setup lang="ts">
import { type Account, NewPersonBody, Password, ROLES } from '@clear-mark/contract';
import { ROLE_MAY } from '@clear-mark/words';
import { v7 } from 'uuid';
import { ref } from 'vue';
import { request, ROUTES } from '../../api/client.ts';
import { useReply } from '../../api/queries.ts';
import { PASSWORD_REFUSALS } from '../../shared/password-refusals.ts';
import CheckedForm from '../../shared/CheckedForm.vue';
import { useForm } from '../../shared/use-form.ts';

/** The lead makes the accounts of the others. */
const { found: people, again } = useReply(ROUTES.people, () => ({}));
const checked = useForm(
  NewPersonBody.extend({ password: Password }),
  { id: v7(), name: '', login: '', role: 'instructor', password: '' },
  {
    'person.login_taken': 'login',
    ...PASSWORD_REFUSALS,
  },
);
const { values, refused, failure, busy, send, reset } = checked;
const made = ref<string | null>(null);

const hasAccount = (account: Account): boolean => !account.login.startsWith('t-');
async function add(): Promise<void> {
  made.value = null;
  const done = await send(async (body) => {
    const person = await request(ROUTES.addPerson, { body });
    made.value = `${person.name} can sign in as ${person.login}.`;
    await again();
  });
  if (done) reset({ id: v7(), name: '', login: '', password: '' });
}
</script>

<template>
  <section class="section">
    <h2>Accounts</h2>
    <CheckedForm :of="checked" class="form" @send="add">
      <el-form-item prop="name" label="Name">
        <el-input v-model="values.name" name="person-name" />
      </el-form-item>
      <el-form-item prop="login" label="Sign-in name" :error="refused['login']">
        <el-input v-model="values.login" name="person-login" autocomplete="off" />
      </el-form-item>
      <el-form-item prop="role" label="Role">
        <el-select v-model="values.role">
          <el-option v-for="r in ROLES" :key="r" :value="r" :label="r" />
        </el-select>
      </el-form-item>
      <el-form-item prop="password" label="First password" :error="refused['password']">
        <el-input
          v-model="values.password"
          name="person-password"
          type="password"
          autocomplete="new-password"
        />
      </el-form-item>
      <el-button size="large" native-type="submit" :loading="busy">Make the account</el-button>
    </CheckedForm>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <p v-if="made" class="soft" role="status">{{ made }}</p>
    <el-table :data="(people ?? []) as Account[]" empty-text="No account but yours yet" row-key="id">
      <el-table-column prop="name" label="Name" sortable min-width="170" />
      <el-table-column prop="role" label="Role" sortable width="120" />
      <el-table-column prop="login" label="Sign-in name" sortable min-width="150">
        <template #default="{ row }: { row: Account }">
          <span class="soft">{{ hasAccount(row) ? row.login : 'none: cannot sign in' }}</span>
        </template>
      </el-table-column>
      <el-table-column label="Classes" min-width="200">
        <template #default="{ row }: { row: Account }">
          <RouterLink
            v-for="c in row.classes"
            :key="c.id"
            class="class"
            :to="{ name: 'setup', params: { classId: c.id } }"
            >{{ c.name }}</RouterLink
          >
          <span v-if="row.classes.length === 0" class="soft">{{
            row.role === 'lead' ? 'all' : 'none yet'
          }}</span>
        </template>
      </el-table-column>
      <el-table-column label="May" min-width="260">
        <template #default="{ row }: { row: Account }">
          {{ hasAccount(row) ? ROLE_MAY[row.role] : 'Is scored; sees nothing' }}
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
  align-items: start;
  margin: 8px 0 14px;
}
.class {
  display: block;
}
.form > .el-button {
  margin-top: 30px;
}
</style>
