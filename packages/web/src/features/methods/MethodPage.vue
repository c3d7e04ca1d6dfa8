<script setup lang="ts">
import { coverageOf, type Criterion, type PracticeOption } from '@clear-mark/core';
import type { MethodVersion } from '@clear-mark/contract';
import { COVERAGE_WORDS, METHOD_STATE_WORDS, skillWords, sourceWords } from '@clear-mark/words';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { request, ROUTES } from '../../api/client.ts';
import { useAct, useReply } from '../../api/queries.ts';
import { limitWords, sourcesOf } from '../../shared/limit-words.ts';
import StripDrawing from '../../shared/StripDrawing.vue';
import StepDrawing from '../../shared/StepDrawing.vue';
import { usePreferences } from '../../shell/preferences.ts';
import { useSession } from '../../session/session.ts';
import { deviceStore } from '../../storage/device-store.ts';
import { useClassroom } from '../../classroom/use-classroom.ts';
import PaperDialog from './paper/PaperDialog.vue';
import VersionActs from './VersionActs.vue';
import VersionList from './VersionList.vue';

const props = defineProps<{ classId: string; versionId: string }>();
const preferences = usePreferences();
const session = useSession();
const classroom = useClassroom();
/** As the device has it, until the server has answered. */
const onDevice = shallowRef<MethodVersion | null>(null);
const {
  found,
  failure: unread,
  put,
} = useReply(ROUTES.methodVersion, () => ({ params: { id: props.versionId } }));
const { failure: unmoved, act } = useAct();
const version = computed(() => found.value ?? onDevice.value);
const failure = computed(() => unmoved.value ?? (version.value ? null : unread.value));

const otherWays = (s: PracticeOption): string =>
  s.options
    .filter((o) => o.id !== s.default)
    .map((o) => o.label)
    .join('; ');
const onPaper = ref(false);
const isLead = computed(() => session.me?.role === 'lead');
const move = (state: 'in_force' | 'retired'): Promise<boolean> =>
  act(async () =>
    put(await request(ROUTES.setMethodState, { params: { id: props.versionId }, body: { state } })),
  );

/** Methods of today's class are on the device: shown from there at once, and without a network too. */
async function fromDevice(): Promise<void> {
  const sheet = await deviceStore.sheet(props.versionId).catch(() => null);
  if (!sheet) return;
  const known = classroom.detail?.methods.find((m) => m.versionId === props.versionId);
  const { id: methodId, version: number } = sheet;
  onDevice.value = {
    id: props.versionId,
    methodId,
    version: number,
    state: known?.state ?? 'in_force',
    sheet,
  };
}
onMounted(() => {
  void classroom.open(props.classId);
  void fromDevice();
});
</script>

<template>
  <div class="page">
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <template v-if="version">
      <div class="row spread">
        <h1>{{ version.sheet.title }}</h1>
        <div class="row acts">
          <el-button size="large" @click="onPaper = true">Put on paper</el-button>
          <template v-if="isLead">
            <el-button v-if="version.state === 'draft'" size="large" type="primary" @click="move('in_force')">
              Put this version in force
            </el-button>
            <VersionActs v-else :version="version" :class-id="classId" />
            <el-button v-if="version.state === 'in_force'" size="large" @click="move('retired')">
              Retire this version
            </el-button>
          </template>
        </div>
      </div>
      <p class="soft">
        version {{ version.version }}, {{ METHOD_STATE_WORDS[version.state] }} ·
        {{ version.sheet.fiberClass }} · pass mark {{ version.sheet.passMarkPercent }} % ({{
          sourceWords(version.sheet.passMarkSource)
        }})
      </p>
      <p class="summary">{{ version.sheet.summary }}</p>
      <StripDrawing
        v-if="version.sheet.strip"
        :strip="version.sheet.strip"
        :place="null"
        :unit="preferences.lengthUnit"
      />
      <section class="section">
        <h2>Cautions</h2>
        <ul>
          <li v-for="(c, i) in version.sheet.cautions" :key="i"><b v-if="c.stop">Stop. </b>{{ c.text }}</li>
        </ul>
      </section>
      <section v-for="(step, i) in version.sheet.steps" :key="step.id" class="section">
        <h2>{{ i + 1 }}. {{ step.title }} <span class="soft small">{{ skillWords(step.skill) }}</span></h2>
        <p class="soft">{{ step.how }}</p>
        <StepDrawing v-if="step.drawing" :name="step.drawing" />
        <p v-for="(caution, n) in step.cautions ?? []" :key="n" class="caution">
          <b>{{ caution.stop ? 'Stop.' : 'Take care.' }}</b> {{ caution.text }}
        </p>
        <el-table :data="[...step.criteria]" row-key="id">
          <el-table-column label="Criterion" min-width="300">
            <template #default="{ row: c }: { row: Criterion }">
              {{ c.label }}
              <span v-if="c.stop" class="small"><b>stop</b></span>
              <span v-else-if="c.critical" class="small"><b>critical</b></span>
              <span v-if="!c.required" class="small soft"> {{ COVERAGE_WORDS[coverageOf(c)] }}</span>
            </template>
          </el-table-column>
          <el-table-column label="Limit" min-width="200">
            <template #default="{ row: c }: { row: Criterion }">{{
              limitWords(c, preferences.lengthUnit)
            }}</template>
          </el-table-column>
          <el-table-column label="Source" min-width="240">
            <template #default="{ row: c }: { row: Criterion }"
              ><span class="small soft">{{ sourcesOf(c).map(sourceWords).join('; ') }}</span></template
            >
          </el-table-column>
          <el-table-column prop="points" label="Points" align="right" width="90" />
        </el-table>
      </section>
      <section v-if="version.sheet.schools" class="section">
        <h2>Where practitioners disagree</h2>
        <p v-for="s in version.sheet.schools" :key="s.id">
          {{ s.question }} <b>{{ s.options.find((o) => o.id === s.default)!.label }}.</b>
          <span class="soft">{{ s.reason }} Also: {{ otherWays(s) }}.</span>
        </p>
        <p class="soft small">A class chooses on its own page.</p>
      </section>
      <VersionList v-if="session.teaches" :key="version.id" :version="version" :class-id="classId" />
      <PaperDialog v-if="onPaper" :sheet="version.sheet" @close="onPaper = false" />
    </template>
  </div>
</template>

<style scoped>
.acts {
  gap: 8px;
}
.acts :deep(.el-button) {
  margin: 0;
}
.caution {
  margin-top: 4px;
  padding-left: 10px;
  border-left: 3px solid var(--ink);
}
.summary {
  max-width: 70ch;
  margin: 8px 0 12px;
}
</style>
