<script setup lang="ts">
import type { SkillEvidence } from '@clear-mark/contract';
import { ruleWords } from '@clear-mark/words';
import { v7 } from 'uuid';
import { computed, ref } from 'vue';
import { request, ROUTES, wordsOf } from '../../../api/client.ts';
import { dayWords } from '../../../shared/time-words.ts';
import { useSession } from '../../../session/session.ts';

const props = defineProps<{ classId: string; evidence: SkillEvidence }>();
const emit = defineEmits<{ signed: [] }>();
const session = useSession();
const isLead = computed(() => session.me?.role === 'lead');
const ready = computed(() => props.evidence.cell.standing === 'competent');
const note = ref('');
const failure = ref<string | null>(null);
const busy = ref(false);
// The same id when an answer was lost: it is one sign-off however often it is sent.
let id = v7();

async function sign(): Promise<void> {
  busy.value = true;
  failure.value = null;
  try {
    const { trainee, cell } = props.evidence;
    await request(ROUTES.signOff, {
      params: { id: props.classId },
      body: { id, traineeId: trainee.id, skill: cell.skill, note: note.value },
    });
    [id, note.value] = [v7(), ''];
    emit('signed');
  } catch (error) {
    failure.value = wordsOf(error);
  } finally {
    busy.value = false;
  }
}
const day = (iso: string): string => dayWords(iso, session.zoneOf(props.classId));
// A day that is told as one, without an hour, is that day in every zone.
const wholeDay = (day: string): string => dayWords(`${day}T12:00:00Z`, 'UTC');
</script>

<template>
  <section class="section">
    <h2>Sign-off</h2>
    <ul v-if="evidence.signOffs.length > 0" class="kept" data-test="sign-offs">
      <li v-for="s in evidence.signOffs" :key="s.id">
        <b>Signed off on {{ day(s.at) }} by {{ s.by }}, lapses on {{ wholeDay(s.lapsesOn) }}.</b>
        Rule: {{ s.rule }}. {{ s.evidence }} {{ s.note }}
      </li>
    </ul>
    <p v-else>Not signed off.</p>
    <form v-if="ready && isLead" class="row form" @submit.prevent="sign">
      <label class="field grow"
        ><span>Note, if any</span><el-input v-model="note" maxlength="300" name="sign-off-note"
      /></label>
      <el-button size="large" type="primary" native-type="submit" :disabled="busy">
        Sign off: {{ ruleWords(evidence.policy) }}
      </el-button>
    </form>
    <p v-else-if="ready" class="soft">The rule is met: the lead can sign this off.</p>
    <p v-else class="soft">The rule is not met, so there is nothing to sign off yet.</p>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
  </section>
</template>

<style scoped>
.kept {
  list-style: none;
  padding: 0;
  margin: 8px 0;
  display: grid;
  gap: 8px;
}
.form {
  align-items: flex-end;
  margin-top: 10px;
}
.grow {
  flex: 1;
  max-width: 420px;
}
</style>
