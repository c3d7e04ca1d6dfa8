<script setup lang="ts">
import type { ClassDetail, Person } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { call, ROUTES, wordsOf } from '../../api/client.ts';
import { useSession } from '../../session/session.ts';
import { useClassroom } from '../../classroom/use-classroom.ts';
import CommitField from '../../shared/CommitField.vue';
import InstrumentsPanel from './InstrumentsPanel.vue';
import PolicyForm from './PolicyForm.vue';
import PracticePanel from './PracticePanel.vue';
import ThingsPanel from './ThingsPanel.vue';
import ChoiceField from '../../shared/ChoiceField.vue';

const props = defineProps<{ classId: string }>();
const classroom = useClassroom();
const session = useSession();
const isLead = computed(() => session.me?.role === 'lead');
const detail = shallowRef<ClassDetail | null>(null);
const people = shallowRef<readonly Person[]>([]);
const failure = ref<string | null>(null);
const names = ref('');
const instructor = ref('');
const params = computed(() => ({ id: props.classId }));
/** Choices follow the methods in use. */
const practiceKey = computed(() =>
  (detail.value?.methods ?? [])
    .filter((m) => m.inUse)
    .map((m) => m.versionId)
    .join(),
);
const otherInstructors = computed(() =>
  people.value.filter((p) => p.role !== 'trainee' && !detail.value?.instructors.some((i) => i.id === p.id)),
);

async function refresh(): Promise<void> {
  try {
    detail.value = await call(ROUTES.classDetail, { params: params.value });
    people.value = await call(ROUTES.people, {});
  } catch (error) {
    failure.value = wordsOf(error);
  }
}
async function run(act: () => Promise<unknown>): Promise<void> {
  failure.value = null;
  try {
    await act();
  } catch (error) {
    failure.value = wordsOf(error);
  }
  await changed();
}

/** One name a line, so that a roster can be pasted. */
const addTrainees = (): Promise<void> =>
  run(async () => {
    const list = names.value
      .split('\n')
      .map((n) => n.trim())
      .filter((n) => n !== '');
    for (const name of list) {
      await call(ROUTES.addMember, {
        params: params.value,
        body: { role: 'trainee', personId: v7(), newPerson: { name } },
      });
    }
    names.value = '';
  });
const addInstructor = (): Promise<void> =>
  run(() =>
    call(ROUTES.addMember, {
      params: params.value,
      body: { role: 'instructor', personId: instructor.value, newPerson: null },
    }),
  );
const useMethod = (versionId: string, inUse: boolean): Promise<void> =>
  run(() => call(ROUTES.useMethod, { params: params.value, body: { versionId, inUse } }));
const setGroup = (traineeId: string, group: string): Promise<void> =>
  run(() => call(ROUTES.setGroup, { params: { ...params.value, traineeId }, body: { group } }));
async function changed(): Promise<void> {
  await refresh();
  classroom.renew(detail.value);
}
onMounted(() => void refresh());
</script>

<template>
  <div class="page">
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <template v-if="detail">
      <div class="head">
        <h1>{{ detail.name }}</h1>
        <RouterLink v-if="isLead" class="act" :to="{ name: 'safekeeping', params: { classId } }"
          >Safekeeping of the records</RouterLink
        >
      </div>
      <p class="soft">
        {{ detail.place }} · {{ detail.startsOn }} to {{ detail.endsOn }} · {{ detail.timeZone }}
      </p>
      <section class="section two">
        <div>
          <h2>Trainees</h2>
          <p v-if="detail.trainees.length === 0" class="soft">Nobody yet. Type or paste names, one a line.</p>
          <ol class="names">
            <li v-for="t in detail.trainees" :key="t.id" class="trainee">
              <div class="line">
                <span>{{ t.name }}</span>
                <CommitField
                  class="group"
                  :maxlength="30"
                  :value="t.group"
                  :label="`Group of ${t.name}`"
                  placeholder="no group"
                  @commit="setGroup(t.id, $event)"
                />
              </div>
            </li>
          </ol>
          <el-input
            v-model="names"
            type="textarea"
            :rows="3"
            aria-label="Names of new trainees, one a line"
            placeholder="One name a line"
          />
          <el-button size="large" :disabled="names.trim() === ''" @click="addTrainees">
            Add trainees
          </el-button>
        </div>
        <div>
          <h2>Instructors</h2>
          <ul class="names">
            <li v-for="i in detail.instructors" :key="i.id">{{ i.name }}</li>
          </ul>
          <div v-if="otherInstructors.length > 0" class="row">
            <ChoiceField
              v-model="instructor"
              bare
              label="Instructor to add"
              none="choose"
              :options="otherInstructors.map((p) => ({ value: p.id, label: p.name }))"
            />
            <el-button size="large" :disabled="instructor === ''" @click="addInstructor">
              Add instructor
            </el-button>
          </div>
          <h2 class="later">Methods in use</h2>
          <div v-for="m in detail.methods" :key="m.versionId" class="row method">
            <span v-if="m.state === 'draft'" class="act draft">Draft</span>
            <el-button v-else size="large" :aria-pressed="m.inUse" @click="useMethod(m.versionId, !m.inUse)">
              {{ m.inUse ? 'In use' : 'Use' }}
            </el-button>
            <RouterLink :to="{ name: 'method', params: { classId, versionId: m.versionId } }">{{
              m.title
            }}</RouterLink>
            <span class="soft small">version {{ m.version }}</span>
          </div>
        </div>
      </section>
      <ThingsPanel :class-id="classId" :things="detail.things" @changed="changed" />
      <InstrumentsPanel :class-id="classId" :things="detail.things" />
      <PracticePanel :key="practiceKey" :class-id="classId" />
      <PolicyForm :class-id="classId" :policy="detail.policy" @changed="changed" />
    </template>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
  justify-content: space-between;
}
.head .act {
  text-decoration: none;
  display: inline-flex;
  align-items: center;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px 40px;
}
.names {
  columns: 2;
  column-gap: 44px;
  padding-left: 24px;
  margin: 8px 0 12px;
}
.trainee {
  break-inside: avoid;
  margin-bottom: 4px;
}
.line {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
}
.group {
  width: 112px;
  flex: none;
}
.draft {
  border-style: dashed;
  cursor: default;
}
.later {
  margin-top: 24px;
}
.method {
  min-height: 52px;
}
.act {
  margin-top: 8px;
}
@media (max-width: 800px) {
  .two {
    grid-template-columns: 1fr;
  }
}
</style>
