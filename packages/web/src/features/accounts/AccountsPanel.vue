<script setup lang="ts">
import { type AccountState, type GivenCode, heldPath, NewInviteBody, ROLES } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { computed, ref, shallowRef } from 'vue';
import { request, ROUTES } from '../../api/client.ts';
import { useAct, useReply } from '../../api/queries.ts';
import ActMenu from '../../shared/ActMenu.vue';
import CheckedForm from '../../shared/CheckedForm.vue';
import { momentWords } from '../../shared/time-words.ts';
import { offerUndo } from '../../shared/undo.ts';
import { useForm } from '../../shared/use-form.ts';
import AccountDialog from './AccountDialog.vue';
import { type AccountAct, actsOf, stateOf } from './accounts.model.ts';
import CodeDialog from './CodeDialog.vue';
import EraseDialog from './EraseDialog.vue';
import TextField from '../../shared/TextField.vue';

/** Everybody of the school: invited by a code, given a new password by a code, closed and opened. */
const { found, failure: unread, again } = useReply(ROUTES.accounts, () => ({}));
const checked = useForm(NewInviteBody, { id: v7(), name: '', role: 'instructor' });
const { values, failure: notMade, busy, send, reset } = checked;
const { failure: notDone, act } = useAct();
const failure = computed(() => notMade.value ?? notDone.value ?? unread.value);
const shown = shallowRef<{ id: string; name: string; given: GivenCode } | null>(null);
const edited = shallowRef<AccountState | null>(null);
const leaving = shallowRef<AccountState | null>(null);
const wanted = ref('');
const accounts = computed(() => {
  const text = wanted.value.trim().toLowerCase();
  return (found.value ?? []).filter((a) => `${a.name} ${a.login} ${a.role}`.toLowerCase().includes(text));
});

async function invite(): Promise<void> {
  const done = await send(async (body) => {
    shown.value = { id: body.id, name: body.name, given: await request(ROUTES.inviteAccount, { body }) };
  });
  if (!done) return;
  reset({ id: v7(), name: '' });
  await again();
}
async function close(account: AccountState, disabled: boolean): Promise<void> {
  const given = { params: { id: account.id }, body: { disabled } };
  if (!(await act(() => request(ROUTES.disableAccount, given)))) return;
  await again();
  offerUndo(`The account of ${account.name} is ${disabled ? 'closed' : 'open again'}.`, () =>
    close(account, !disabled),
  );
}
async function choose(what: AccountAct, account: AccountState): Promise<void> {
  const params = { id: account.id };
  switch (what) {
    case 'edit':
      edited.value = account;
      return;
    case 'close':
    case 'open':
      return close(account, what === 'close');
    case 'code':
      await act(async () => {
        shown.value = {
          id: account.id,
          name: account.name,
          given: await request(ROUTES.giveCode, { params }),
        };
      });
      return again();
    case 'withdraw':
      await act(() => request(ROUTES.withdrawCode, { params }));
      return again();
    case 'pin':
      await act(() => request(ROUTES.dropPinOf, { params }));
      return again();
    case 'held':
      window.location.assign(heldPath(account.id));
      return;
    case 'erase':
      leaving.value = account;
      return;
    case 'sessions':
      await act(() => request(ROUTES.endSessionsOf, { params }));
      return again();
    case 'factor':
      await act(() => request(ROUTES.dropSecondFactorOf, { params }));
      return again();
    default: {
      const never: never = what;
      return never;
    }
  }
}
async function saved(): Promise<void> {
  edited.value = null;
  await again();
}
</script>

<template>
  <section class="section">
    <h2>Invite somebody</h2>
    <CheckedForm :of="checked" class="form" @send="invite">
      <TextField v-model="values.name" prop="name" label="Name" name="invite-name" autocomplete="off" />
      <el-form-item prop="role" label="Role">
        <el-select v-model="values.role" aria-label="Role">
          <el-option v-for="r in ROLES" :key="r" :value="r" :label="r" />
        </el-select>
      </el-form-item>
      <el-button size="large" type="primary" native-type="submit" :loading="busy">Make a code</el-button>
    </CheckedForm>
    <p class="soft">
      The code goes to the person by hand, on paper or in a message; sign-in name and password are chosen with
      it. Trainees who were added to a class are in the list below.
    </p>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
  </section>
  <section class="section">
    <div class="row head">
      <h2>{{ found?.length ?? 0 }} people</h2>
      <el-input
        v-model="wanted"
        size="large"
        class="find"
        clearable
        aria-label="Find by name or role"
        placeholder="Name or role"
      />
    </div>
    <el-table :data="accounts" row-key="id" data-test="accounts" empty-text="Nobody of that name">
      <el-table-column prop="name" label="Name" sortable min-width="180" />
      <el-table-column prop="role" label="Role" sortable width="116" />
      <el-table-column label="Sign-in name" min-width="130">
        <template #default="{ row }: { row: AccountState }">{{ row.signsIn ? row.login : '' }}</template>
      </el-table-column>
      <el-table-column label="State" min-width="190">
        <template #default="{ row }: { row: AccountState }">
          <b :class="{ soft: row.signsIn && !row.disabled }">{{ stateOf(row) }}</b>
          <div v-if="row.codeUntil" class="small soft">
            code until {{ momentWords(row.codeUntil, 'short') }}
          </div>
          <div v-else-if="row.lastSignIn" class="small soft">
            last in {{ momentWords(row.lastSignIn, 'short') }}{{ row.secondFactor ? ', second factor' : '' }}
          </div>
        </template>
      </el-table-column>
      <el-table-column label="Classes" min-width="180">
        <template #default="{ row }: { row: AccountState }">
          <RouterLink
            v-for="c in row.classes"
            :key="c.id"
            class="class"
            :to="{ name: 'setup', params: { classId: c.id } }"
            >{{ c.name }}</RouterLink
          >
          <span v-if="row.classes.length === 0" class="soft">{{ row.role === 'lead' ? 'all' : 'none' }}</span>
        </template>
      </el-table-column>
      <el-table-column width="132" align="right">
        <template #default="{ row }: { row: AccountState }">
          <ActMenu
            label="Change"
            :name="`Change: ${row.name}`"
            :acts="actsOf(row)"
            @choose="(what) => choose(what, row)"
          />
        </template>
      </el-table-column>
    </el-table>
  </section>
  <CodeDialog v-if="shown" :id="shown.id" :name="shown.name" :given="shown.given" @close="shown = null" />
  <EraseDialog v-if="leaving" :key="leaving.id" :account="leaving" @close="leaving = null" @erased="again" />
  <AccountDialog v-if="edited" :key="edited.id" :account="edited" @close="edited = null" @saved="saved" />
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 1fr) auto;
  gap: 14px;
  align-items: start;
  max-width: 760px;
  margin-top: 8px;
}
.form > .el-button {
  margin-top: 30px;
}
.head {
  justify-content: space-between;
  margin-bottom: 8px;
}
.find {
  width: min(100%, 260px);
}
.class {
  display: block;
}
@media (max-width: 640px) {
  .form {
    grid-template-columns: minmax(0, 1fr);
  }
  .form > .el-button {
    margin-top: 0;
  }
}
</style>
