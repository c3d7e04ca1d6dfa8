<script setup lang="ts">
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { ROUTES } from '../../api/client.ts';
import { useReply } from '../../api/queries.ts';
import { useClassroom } from '../../classroom/use-classroom.ts';
import { useSession } from '../../session/session.ts';
import { dayText } from '../../shared/day-range.model.ts';
import ViewSwitch from '../../shared/ViewSwitch.vue';
import { SETUP_VIEWS, setupSteps, type SetupView } from './class-setup.model.ts';
import BenchDevicesPanel from './BenchDevicesPanel.vue';
import InstrumentsPanel from './InstrumentsPanel.vue';
import LabelsPanel from './LabelsPanel.vue';
import MethodsPanel from './MethodsPanel.vue';
import PolicyForm from './PolicyForm.vue';
import PracticePanel from './PracticePanel.vue';
import ThingsPanel from './ThingsPanel.vue';
import TraineesPanel from './TraineesPanel.vue';

/** The settings of a class; while something is missing for the first piece, the steps to it stand above. */
const props = defineProps<{ classId: string }>();
const classroom = useClassroom();
const session = useSession();
const route = useRoute();
const router = useRouter();
const isLead = computed(() => session.me?.role === 'lead');
const {
  found: detail,
  failure,
  again,
} = useReply(ROUTES.classDetail, () => ({ params: { id: props.classId } }));
const { found: people, again: peopleAgain } = useReply(ROUTES.people, () => ({}));
const steps = computed(() => (detail.value ? setupSteps(detail.value) : []));
const next = computed(() => steps.value.findIndex((s) => !s.done));
/** Where the set-up is still under way its next step opens first; it stays open while it is worked at. */
let first: SetupView | null = null;
const current = computed(() => {
  const asked = SETUP_VIEWS.find((v) => v.id === route.query['view'])?.id;
  if (detail.value) first ??= steps.value[next.value]?.view ?? 'people';
  return asked ?? first ?? 'people';
});
/** Choices follow the methods in use. */
const practiceKey = computed(() =>
  (detail.value?.methods ?? [])
    .filter((m) => m.inUse)
    .map((m) => m.versionId)
    .join(),
);

async function changed(): Promise<void> {
  await Promise.all([again(), peopleAgain()]);
  classroom.renew(detail.value);
}
</script>

<template>
  <div class="page">
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <el-skeleton v-if="!detail && !failure" :rows="8" animated />
    <template v-if="detail">
      <div class="head">
        <div>
          <h1>{{ detail.name }}</h1>
          <p class="soft">
            {{ detail.place }} · {{ dayText(detail.startsOn) }} to {{ dayText(detail.endsOn) }} ·
            {{ detail.timeZone }}
          </p>
        </div>
        <RouterLink v-if="isLead" class="act" :to="{ name: 'safekeeping', params: { classId } }"
          >Safekeeping of the records</RouterLink
        >
      </div>
      <el-steps v-if="next >= 0" class="steps" :active="next" finish-status="success" align-center>
        <el-step v-for="s in steps" :key="s.view" :title="s.title" :status="s.done ? 'success' : undefined">
          <template #description>
            <el-button text size="large" @click="router.replace({ query: { view: s.view } })">
              {{ s.done ? 'Change' : 'Do this' }}
            </el-button>
          </template>
        </el-step>
      </el-steps>
      <ViewSwitch place="Class" :views="SETUP_VIEWS" :current="current">
        <TraineesPanel
          v-if="current === 'people'"
          :detail="detail"
          :people="people ?? []"
          @changed="changed"
        />
        <template v-else-if="current === 'equipment'">
          <ThingsPanel :class-id="classId" :things="detail.things" @changed="changed" />
          <LabelsPanel :detail="detail" />
          <InstrumentsPanel :class-id="classId" :things="detail.things" />
          <BenchDevicesPanel :class-id="classId" />
        </template>
        <MethodsPanel v-else-if="current === 'methods'" :detail="detail" @changed="changed" />
        <PracticePanel v-else-if="current === 'practice'" :key="practiceKey" :class-id="classId" />
        <PolicyForm v-else :class-id="classId" :policy="detail.policy" @changed="changed" />
      </ViewSwitch>
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
  margin-bottom: 10px;
}
.steps {
  margin: 14px 0;
}
</style>
