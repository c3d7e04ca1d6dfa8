<script setup lang="ts">
import { AccountChangeBody, type AccountState, ROLES } from '@clear-mark/contract';
import { ROLE_MAY } from '@clear-mark/words';
import { request, ROUTES } from '../../api/client.ts';
import CheckedForm from '../../shared/CheckedForm.vue';
import { useForm } from '../../shared/use-form.ts';
import TextField from '../../shared/TextField.vue';

/** The name and the role of an account. */
const props = defineProps<{ account: AccountState }>();
const emit = defineEmits<{ close: []; saved: [] }>();
const { id, name, role } = props.account;
const checked = useForm(
  AccountChangeBody,
  { name, role },
  { 'account.last_lead': 'role', 'account.role_in_class': 'role' },
);
const { values, refused, failure, busy, send } = checked;
const save = async (): Promise<void> => {
  const done = await send((body) => request(ROUTES.changeAccount, { params: { id }, body }));
  if (done) emit('saved');
};
</script>

<template>
  <el-dialog model-value :title="name" width="min(520px, 94vw)" align-center @close="emit('close')">
    <CheckedForm :of="checked" @send="save">
      <TextField v-model="values.name" prop="name" label="Name" name="account-name" />
      <el-form-item prop="role" label="Role" :error="refused['role']">
        <el-radio-group v-model="values.role" class="roles">
          <el-radio v-for="r in ROLES" :key="r" :value="r" size="large"
            ><b>{{ r }}</b> <span class="soft">{{ ROLE_MAY[r] }}</span></el-radio
          >
        </el-radio-group>
      </el-form-item>
    </CheckedForm>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <template #footer>
      <el-button size="large" @click="emit('close')">Cancel</el-button>
      <el-button size="large" type="primary" :loading="busy" @click="save">Save</el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.roles {
  display: grid;
  gap: 4px;
}
.roles :deep(.el-radio) {
  height: auto;
  min-height: var(--tap);
  white-space: normal;
}
</style>
