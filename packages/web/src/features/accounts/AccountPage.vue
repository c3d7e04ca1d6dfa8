<script setup lang="ts">
import { HELD_PATHS } from '@clear-mark/contract';
import { request, ROUTES } from '../../api/client.ts';
import { useAct, useReply } from '../../api/queries.ts';
import { useSession } from '../../session/session.ts';
import PasswordForm from './PasswordForm.vue';
import PinForm from './PinForm.vue';
import TokensPanel from './TokensPanel.vue';
import SecondFactorForm from './SecondFactorForm.vue';

/** The own account: password, second factor, where one is signed in. */
const session = useSession();
const { found, failure: unread, again } = useReply(ROUTES.ownAccount, () => ({}));
const { failure, act } = useAct();
async function endOthers(): Promise<void> {
  await act(() => request(ROUTES.endOwnSessions, {}));
  await again();
}
async function changed(): Promise<void> {
  await Promise.all([again(), session.refresh()]);
}
</script>

<template>
  <div class="page">
    <h1>Your account</h1>
    <p v-if="unread ?? failure" class="notice bad" role="alert">{{ unread ?? failure }}</p>
    <template v-if="found">
      <p class="soft">{{ session.me?.name }}, {{ session.me?.role }}, signs in as <b>{{ found.login }}</b></p>
      <section v-if="!session.start?.needsSecondFactor" class="section">
        <h2>Where you are signed in</h2>
        <div class="row">
          <span>{{
            found.sessions <= 1 ? 'Here alone.' : `Here and in ${found.sessions - 1} other places.`
          }}</span>
          <el-button v-if="found.sessions > 1" size="large" @click="endOthers"
            >Sign out everywhere else</el-button
          >
        </div>
      </section>
      <SecondFactorForm
        :on="found.secondFactor"
        :required="found.secondFactorRequired"
        :recovery-codes-left="found.recoveryCodesLeft"
        @changed="changed"
      />
      <PinForm v-if="session.me?.role !== 'lead'" :has="found.pin" @changed="again" />
      <TokensPanel v-if="session.teaches && !session.start?.needsSecondFactor" />
      <section v-if="!session.start?.needsSecondFactor" class="section">
        <h2>What is held about you</h2>
        <p class="soft">
          Your pieces with every entry, notes, records, pictures, certificates, and what was done with your
          account, as a ZIP file: a page to read, and the same for programs. To be erased, ask a lead.
        </p>
        <a class="act" :href="HELD_PATHS.own" download>Take it all out</a>
      </section>
      <PasswordForm v-if="!session.start?.needsSecondFactor" />
    </template>
  </div>
</template>
