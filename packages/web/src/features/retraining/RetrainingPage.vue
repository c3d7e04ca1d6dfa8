<script setup lang="ts">
import { type Plan, PLAN_CALENDAR_PATH, type PlanItem, type PlanItemBody } from '@clear-mark/contract';
import { dayIn, daysAfter, DEFAULT_POLICY } from '@clear-mark/core';
import { skillInText } from '@clear-mark/words';
import { v7 } from 'uuid';
import { computed, ref } from 'vue';
import { request, pathOf, ROUTES } from '../../api/client.ts';
import { useAct, useReply } from '../../api/queries.ts';
import { dayWords, momentWords } from '../../shared/time-words.ts';
import { instantAt } from '../../shared/wall-time.ts';
import { useSession } from '../../session/session.ts';
import { amountWords, planGroups } from './plan.model.ts';
import PlanRow from './PlanRow.vue';
import SessionForm from './SessionForm.vue';

const props = defineProps<{ classId: string }>();
const params = computed(() => ({ id: props.classId }));
const { found: plan, failure: unread, again } = useReply(ROUTES.plan, () => ({ params: params.value }));
const { found: detail } = useReply(ROUTES.classDetail, () => ({ params: params.value }));
const acts = useAct();
const failure = computed(() => acts.failure.value ?? unread.value);
const adding = ref(false);
const policy = computed(() => detail.value?.policy ?? DEFAULT_POLICY);
const groups = computed(() => (plan.value ? planGroups(plan.value, policy.value) : []));
const closed = computed(() => plan.value?.items.filter((i) => i.closedAt !== null) ?? []);
const session = useSession();
const sessions = computed(() => plan.value?.sessions ?? []);

async function act(work: () => Promise<unknown>): Promise<void> {
  if (await acts.act(work)) await again();
}
const change = (item: PlanItem, body: PlanItemBody): Promise<void> =>
  act(() => request(ROUTES.changePlanItem, { params: { ...params.value, itemId: item.id }, body }));
async function save({ id, ...body }: Plan['sessions'][number]): Promise<void> {
  await request(ROUTES.savePlanSession, { params: { ...params.value, sessionId: id }, body });
  adding.value = false;
  await again();
}
const drop = (id: string): Promise<void> =>
  act(() => request(ROUTES.dropPlanSession, { params: { ...params.value, sessionId: id } }));

function nextMorning(): Plan['sessions'][number] {
  const tomorrow = daysAfter(dayIn(session.zoneOf(props.classId), new Date()), 1);
  return {
    id: v7(),
    startsAt: instantAt(`${tomorrow}T09:00`),
    minutes: 120,
    place: detail.value?.place ?? '',
  };
}
const day = (iso: string): string => dayWords(iso, session.zoneOf(props.classId));
const hours = (minutes: number): string =>
  minutes < 60
    ? `${minutes} min`
    : `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')} min`;
const print = (): void => window.print();
</script>

<template>
  <div class="page">
    <div class="row spread">
      <div>
        <h1>Retraining</h1>
        <p class="soft">{{ detail?.name }}: who practises what, how many pieces, when</p>
      </div>
      <div class="row tools">
        <el-button size="large" :type="adding ? 'default' : 'primary'" @click="adding = true"
          >Plan a session</el-button
        >
        <el-button size="large" @click="print">Print</el-button>
        <a class="act" :href="pathOf(PLAN_CALENDAR_PATH, { id: classId })" download>Calendar file</a>
      </div>
    </div>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <SessionForm v-if="adding" :session="nextMorning()" :save="save" @leave="adding = false" />
    <el-skeleton v-if="!plan && !failure" :rows="6" animated />
    <template v-if="plan">
      <p v-if="groups.length === 0" class="empty">
        Nobody needs retraining. An item opens by itself when a standing asks for it.
        <RouterLink :to="{ name: 'insight', params: { classId } }">See how everyone stands</RouterLink>
      </p>
      <section
        v-for="g in groups"
        :key="g.session?.id ?? 'none'"
        class="section"
        :data-session="g.session?.id ?? 'none'"
      >
        <div class="row spread">
          <h2>{{ g.session ? momentWords(g.session.startsAt, 'planned') : 'Not in a session yet' }}</h2>
          <el-popconfirm
            v-if="g.session"
            width="280"
            title="Its trainees stay on the list, without a session."
            confirm-button-text="Give it up"
            cancel-button-text="Cancel"
            @confirm="drop(g.session.id)"
          >
            <template #reference>
              <el-button size="large" text class="tools">Give the session up</el-button>
            </template>
          </el-popconfirm>
        </div>
        <p v-if="g.session" class="soft">
          {{ [g.session.place, hours(g.session.minutes)].filter((w) => w !== '').join(', ') }}
        </p>
        <p v-if="g.overMinutes > 0" class="notice" data-test="over">
          {{ hours(g.minutes) }} for the busiest trainee, {{ hours(g.overMinutes) }} more than the session
          has.
        </p>
        <p v-else-if="g.items.length > 0" class="soft">
          {{ hours(g.minutes) }} at the bench for the busiest trainee.
        </p>
        <p v-if="g.items.length === 0" class="soft">
          Nobody is in this session yet: choose it at a trainee’s need.
        </p>
        <ul class="items">
          <PlanRow
            v-for="item in g.items"
            :key="item.id"
            :class-id="classId"
            :item="item"
            :wanted="policy.passesInARow"
            :sessions="sessions"
            @change="change(item, $event)"
          />
        </ul>
        <p v-if="g.consumables.length > 0" data-test="consumables">
          <b>Lay out:</b> {{ g.consumables.map(amountWords).join(', ') }}.
        </p>
      </section>
      <section v-if="closed.length > 0" class="section">
        <h2>Closed by the evidence</h2>
        <ul class="closed">
          <li v-for="item in closed" :key="item.id">
            <RouterLink
              :to="{ name: 'evidence', params: { classId, traineeId: item.traineeId, skill: item.skill } }"
              >{{ item.traineeName }}, {{ skillInText(item.skill) }}</RouterLink
            >: competent again, closed on {{ day(item.closedAt!) }}
          </li>
        </ul>
      </section>
      <details>
        <summary>How this is worked out</summary>
        <p class="soft">
          An item opens when a standing is retrain, lapsed or watch, closes when the skill is competent again,
          and opens anew when that goes. Pieces: expected until {{ policy.passesInARow }} pass in a row at the
          rate of the last {{ policy.window }}, (p^−r − p^−j) / (1 − p) from a streak of j, with the ends of
          the rate’s 95 % interval as its range. Minutes of a piece: the class’s own median where at least
          five were timed, never more than the drill’s. Drills and what they take are house values: change
          them where yours differ. Wear eye protection and keep offcuts counted in retraining as in class;
          local rules and licensed practice go first.
        </p>
      </details>
    </template>
  </div>
</template>

<style scoped>
.items,
.closed {
  list-style: none;
  margin: 8px 0;
  padding: 0;
}
.closed li {
  min-height: var(--tap);
  display: flex;
  align-items: center;
  gap: 4px;
}
.empty {
  padding: 30px 0;
  font-size: 1.125rem;
}
@media print {
  .tools,
  details {
    display: none;
  }
}
</style>
