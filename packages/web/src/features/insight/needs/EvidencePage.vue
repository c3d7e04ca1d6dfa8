<script setup lang="ts">
import { type EvidenceCode, piecesAhead, type Skill, verdictOfMark } from '@clear-mark/core';
import type { SkillEvidence } from '@clear-mark/contract';
import {
  aheadWords,
  evidenceWords,
  ruleWords,
  skillInText,
  skillWords,
  STANDING_WORDS,
  VERDICT_WORDS,
} from '@clear-mark/words';
import { computed, defineAsyncComponent } from 'vue';
import { useRouter } from 'vue-router';
import { ROUTES } from '../../../api/client.ts';
import { useReply } from '../../../api/queries.ts';
import VerdictRing from '../../../shared/VerdictRing.vue';
import { useSession } from '../../../session/session.ts';
import RateBar from '../RateBar.vue';
import { rateWords } from '@clear-mark/words';
import SignOffPanel from './SignOffPanel.vue';
import StandingMark from '../../../shared/StandingMark.vue';
import { momentWords } from '../../../shared/time-words.ts';

const props = defineProps<{ classId: string; traineeId: string; skill: string }>();
const session = useSession();
const CompetenceChart = defineAsyncComponent(() => import('./CompetenceChart.vue'));
const router = useRouter();
const skill = computed(() => props.skill as Skill);
const { found, failure, again } = useReply(ROUTES.skillEvidence, () => ({
  params: { id: props.classId, traineeId: props.traineeId, skill: skill.value },
}));
const sheetOf = (attemptId: string) => ({ name: 'sheet', params: { classId: props.classId, attemptId } });
interface Line {
  row: SkillEvidence['outcomes'][number];
}
const newest = computed(() => [...(found.value?.outcomes ?? [])].reverse());
const ahead = computed(() => {
  const { cell, policy } = found.value!;
  return cell.standing === 'competent' || policy.competentBy !== 'in_a_row'
    ? ''
    : aheadWords(piecesAhead(cell.window, policy.passesInARow), policy.passesInARow);
});
const when = (iso: string): string => momentWords(iso, 'full');
</script>

<template>
  <div class="page">
    <RouterLink class="back" :to="{ name: 'insight', params: { classId } }">Insight</RouterLink>
    <p v-if="failure" class="notice bad" role="alert">
      {{ failure }} <el-button size="large" @click="again">Try again</el-button>
    </p>
    <el-skeleton v-if="!found && !failure" :rows="6" animated />
    <template v-if="found">
      <div class="head">
        <StandingMark :standing="found.cell.standing" />
        <div>
          <h1>{{ found.trainee.name }}: {{ skillInText(skill) }}</h1>
          <p class="standing" data-test="standing">
            <b>{{ STANDING_WORDS[found.cell.standing] }}.</b>
            {{ evidenceWords(found.cell.evidence.code as EvidenceCode, found.cell.evidence.params) }}
            <template v-if="found.cell.behind">
              Most points went at “{{ found.cell.behind.stepTitle }}”:
              {{ found.cell.behind.label.toLowerCase() }}.
            </template>
            {{ ahead }}
          </p>
          <p class="soft">
            Rule of the class: {{ ruleWords(found.policy) }}.
            <template v-if="found.lapsesOn">Lapses on {{ found.lapsesOn }} without a further pass.</template>
          </p>
        </div>
        <div class="rate">
          <span class="soft small">all outcomes</span>
          <RateBar :rate="found.cell.rate" />
          <span>{{ rateWords(found.cell.rate) }}</span>
        </div>
      </div>
      <p v-if="found.outcomes.length === 0" class="notice">
        Nothing of this skill is signed yet. The chart begins with the first signed piece.
      </p>
      <section v-else class="section">
        <h2>Outcome by outcome</h2>
        <p v-if="found.cell.rate.kind === 'none'" class="soft">
          All outcomes are void or incomplete, so there is nothing to chart.
        </p>
        <CompetenceChart
          v-else
          :evidence="found"
          :time-zone="session.zoneOf(classId)"
          @open="router.push(sheetOf($event))"
        />
      </section>
      <SignOffPanel :class-id="classId" :evidence="found" @signed="again" />
      <section v-if="newest.length > 0" class="section">
        <h2>The pieces behind it</h2>
        <el-table :data="newest" row-key="attemptId" data-test="pieces">
          <el-table-column prop="startedAt" label="When" min-width="180" sortable>
            <template #default="{ row: o }: Line"
              ><RouterLink :to="sheetOf(o.attemptId)" data-test="piece">{{
                when(o.startedAt)
              }}</RouterLink></template
            >
          </el-table-column>
          <el-table-column prop="pieceLabel" label="Piece" min-width="160" sortable />
          <el-table-column prop="methodTitle" label="Method" min-width="260" sortable />
          <el-table-column prop="mark" :label="skillWords(skill)" min-width="200" sortable>
            <template #default="{ row: o }: Line">
              <span class="row verdict">
                <VerdictRing :verdict="verdictOfMark(o.mark)" :size="22" />
                {{ VERDICT_WORDS[verdictOfMark(o.mark)] }}{{ o.mark === 'S' ? ', stop breach' : '' }}
              </span>
            </template>
          </el-table-column>
          <el-table-column prop="minutes" label="Minutes" align="right" width="120" sortable>
            <template #default="{ row: o }: Line">{{
              o.minutes === null ? 'not timed' : Math.round(o.minutes)
            }}</template>
          </el-table-column>
        </el-table>
      </section>
    </template>
  </div>
</template>

<style scoped>
.back {
  min-height: var(--tap);
  display: inline-flex;
  align-items: center;
}
.head {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) 220px;
  gap: 16px;
  align-items: start;
  padding-bottom: 14px;
}
.head > .mark {
  width: 54px;
  height: 54px;
}
.standing {
  font-size: 1.125rem;
  margin: 4px 0;
}
.rate {
  display: grid;
  gap: 4px;
}
.verdict {
  gap: 8px;
}
@media (max-width: 800px) {
  .head {
    grid-template-columns: auto minmax(0, 1fr);
  }
}
</style>
