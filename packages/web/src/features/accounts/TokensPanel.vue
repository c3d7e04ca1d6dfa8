<script setup lang="ts">
import {
  type ApiToken,
  Label,
  MOST_TOKEN_DAYS,
  RIGHTS,
  TOKEN_RIGHTS,
  type TokenRight,
} from '@clear-mark/contract';
import { v7 } from 'uuid';
import { computed, ref } from 'vue';
import { z } from 'zod';
import { request, ROUTES } from '../../api/client.ts';
import { useAct, useReply } from '../../api/queries.ts';
import CheckedForm from '../../shared/CheckedForm.vue';
import { momentWords } from '../../shared/time-words.ts';
import ShownOnce from '../../shared/ShownOnce.vue';
import { useForm } from '../../shared/use-form.ts';
import TextField from '../../shared/TextField.vue';

/** Tokens by which scripts do what this person may: made for so many days, shown once, ended by a tap. */
const { found, failure: unread, again } = useReply(ROUTES.apiTokens, () => ({}));
const checked = useForm(
  z.object({
    label: Label,
    rights: z.array(z.enum(TOKEN_RIGHTS)).min(1, 'Choose what it may do.'),
    days: z.number().int().min(1).max(MOST_TOKEN_DAYS),
  }),
  { label: '', rights: ['results'] as TokenRight[], days: 90 },
);
const { values, failure: notMade, busy, send, reset } = checked;
const { failure: notEnded, act } = useAct();
const failure = computed(() => notMade.value ?? notEnded.value ?? unread.value);
const shown = ref<string | null>(null);
const rights = TOKEN_RIGHTS.map((id) => ({ id, act: RIGHTS.find((r) => r.id === id)!.act }));
const actOf = (id: TokenRight): string => rights.find((r) => r.id === id)!.act;

async function make(): Promise<void> {
  const done = await send(async (body) => {
    shown.value = (await request(ROUTES.addApiToken, { body: { id: v7(), ...body } })).token;
  });
  if (!done) return;
  reset({ label: '', rights: ['results'], days: 90 });
  await again();
}
async function end(token: ApiToken): Promise<void> {
  await act(() => request(ROUTES.endApiToken, { params: { id: token.id } }));
  await again();
}
</script>

<template>
  <section class="section">
    <h2>Tokens for scripts</h2>
    <p class="soft">
      A script that sends a token does what you may, within the rights it was given. What there is to ask:
      <a href="/api/docs">the interface for programs</a>.
    </p>
    <ul v-if="found && found.length > 0" class="tokens">
      <li v-for="token in found" :key="token.id" class="row">
        <span>
          <b>{{ token.label }}</b>, until {{ momentWords(token.until, 'short') }},
          {{ token.lastUsed ? `last used ${momentWords(token.lastUsed, 'short')}` : 'never used' }}
          <span class="soft small rights">{{ token.rights.map(actOf).join('; ') }}</span>
        </span>
        <el-button size="large" :aria-label="`End ${token.label}`" @click="end(token)">End it</el-button>
      </li>
    </ul>
    <ShownOnce v-if="shown" name="token" :secret="shown" @taken="shown = null">
      Send it as <b>Authorization: Bearer</b> and the token.
    </ShownOnce>
    <CheckedForm :of="checked" class="form" @send="make">
      <TextField
        v-model="values.label"
        prop="label"
        label="What it is for"
        name="token-label"
        autocomplete="off"
      />
      <el-form-item prop="days" label="Days for which it holds">
        <el-input-number v-model="values.days" :min="1" :max="MOST_TOKEN_DAYS" name="token-days" />
      </el-form-item>
      <el-form-item prop="rights" label="What it may do" class="wide">
        <el-checkbox-group v-model="values.rights" class="choices">
          <el-checkbox v-for="r in rights" :key="r.id" :value="r.id" size="large">{{ r.act }}</el-checkbox>
        </el-checkbox-group>
      </el-form-item>
      <el-button size="large" native-type="submit" :loading="busy">Make a token</el-button>
    </CheckedForm>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
  </section>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: minmax(0, 380px) minmax(0, 240px);
  gap: 0 18px;
  margin-top: 12px;
  max-width: 760px;
}
.wide {
  grid-column: 1 / -1;
}
.form > .el-button {
  justify-self: start;
}
.choices {
  display: grid;
}
.choices :deep(.el-checkbox) {
  height: auto;
  min-height: var(--tap);
  white-space: normal;
}
.tokens {
  list-style: none;
  padding: 0;
  max-width: 900px;
}
.tokens > li {
  justify-content: space-between;
  padding: 6px 0;
  border-bottom: 1px solid var(--hair);
}
.rights {
  display: block;
}
@media (max-width: 640px) {
  .form {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
