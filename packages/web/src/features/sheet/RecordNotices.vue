<script setup lang="ts">
import { NOTICE_WORDS } from '@clear-mark/words';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { wordsOf } from '../../api/client.ts';
import { useSession } from '../../session/session.ts';
import { toConfirm } from './origins.model.ts';
import type { SheetState } from './use-sheet.ts';
import { momentWords } from '../../shared/time-words.ts';

/** What is to be known of the record beside its results: changed since it was signed, handed in by others, unused. */
const props = defineProps<{ sheet: SheetState; classId: string }>();
const session = useSession();
const router = useRouter();
const failure = ref<string | null>(null);
const busy = ref(false);

const state = computed(() => props.sheet.document.value?.attempt.state ?? 'open');
const notices = computed(() => props.sheet.document.value?.notices ?? []);
const mine = computed(() => toConfirm(props.sheet.entries.value, session.me?.id ?? ''));
const unused = computed(
  () => state.value === 'open' && props.sheet.mine.value && props.sheet.entries.value.length === 0,
);
const when = (iso: string): string => momentWords(iso, 'full');

async function run(act: () => Promise<void>): Promise<void> {
  failure.value = null;
  busy.value = true;
  try {
    await act();
  } catch (error) {
    failure.value = wordsOf(error);
  }
  busy.value = false;
}
const standBy = (): Promise<void> => run(() => props.sheet.confirm(mine.value));
const withdraw = (): Promise<void> =>
  run(async () => {
    await props.sheet.withdraw();
    const { classId } = props;
    await router.push(classId === '' ? { name: 'me' } : { name: 'today', params: { classId } });
  });
</script>

<template>
  <p v-if="state === 'withdrawn'" class="notice" data-test="withdrawn">
    <b>Withdrawn.</b> Nothing was entered for it; it counts nowhere.
  </p>
  <div v-if="notices.length > 0" class="notice" data-test="amendment-notice">
    <b>Changed since it was signed.</b> What was signed stands; look whether it needs an amendment.
    <ul>
      <li v-for="n in notices" :key="n.id">{{ NOTICE_WORDS[n.cause] }}, {{ n.by }}, {{ when(n.at) }}</li>
    </ul>
  </div>
  <p v-if="mine.length > 0" class="notice row" data-test="stand-by">
    <span
      >{{ mine.length }} {{ mine.length === 1 ? 'entry' : 'entries' }} in your name
      {{ mine.length === 1 ? 'was' : 'were' }} handed in by another person.</span
    >
    <el-button :loading="busy" @click="standBy">I stand by {{ mine.length === 1 ? 'it' : 'them' }}</el-button>
  </p>
  <p v-if="unused" class="notice row quiet">
    <span class="soft">Nothing is entered yet.</span>
    <el-button :loading="busy" data-test="withdraw" @click="withdraw">Withdraw this piece</el-button>
  </p>
  <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
</template>

<style scoped>
.notice {
  margin: 8px 20px;
}
.notice ul {
  margin: 4px 0 0;
  padding-left: 20px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
  justify-content: space-between;
}
.quiet {
  background: transparent;
  border-color: var(--hair);
}
</style>
