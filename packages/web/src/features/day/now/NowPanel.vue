<script setup lang="ts">
import { instantOf, type OvenWay } from '@clear-mark/core';
import type { DayPlanBody } from '@clear-mark/contract';
import { useIntervalFn } from '@vueuse/core';
import { v7 } from 'uuid';
import { computed, ref } from 'vue';
import { request, ROUTES } from '../../../api/client.ts';
import { useAct, useReply } from '../../../api/queries.ts';
import { useLiveOutcomes } from '../../../classroom/live-outcomes.ts';
import { useClassroom } from '../../../classroom/use-classroom.ts';
import { agoWords, clockText, timeOfDay } from '../../../shared/time-words.ts';
import { deviceSettings } from '../../../storage/device-settings.ts';
import { stockRows, WARNING_WORDS } from '../stock/stock.model.ts';
import {
  type LoadNow,
  loadsInside,
  loadsToCome,
  minuteNow,
  stationsNow,
  traineesNow,
  traysOf,
} from './now.model.ts';
import { useBehind } from './use-behind.ts';

/** What should be going on now beside what is: benches, ovens with their clocks, and which station is free for whom. */
const props = defineProps<{ classId: string }>();
/** Fewer minutes behind the plan are the usual to and fro; house. */
const WORTH_SAYING = 5;
const classroom = useClassroom();
const live = useLiveOutcomes();
const day = computed(() => classroom.today());
const reply = useReply(ROUTES.day, () => ({ params: { id: props.classId, day: day.value } }));
const { found: methods } = useReply(ROUTES.dayMethods, () => ({ params: { id: props.classId } }));
const { found: stock } = useReply(ROUTES.stock, () => ({ params: { id: props.classId } }));
/** What there is to see to before the day goes on. */
const warned = computed(() => stockRows(stock.value?.things ?? []).filter((t) => t.warnings.length > 0));
const acts = useAct();
const now = ref(Date.now() + classroom.offsetMs);
useIntervalFn(() => (now.value = Date.now() + classroom.offsetMs), 1000);
const isRoom = ref(deviceSettings.read('day-size') === 'room');
function setRoom(large: boolean): void {
  isRoom.value = large;
  deviceSettings.write('day-size', large ? 'room' : 'tablet');
}

const saved = computed((): DayPlanBody | null => reply.found.value?.saved ?? null);
const loads = computed(() => reply.found.value?.loads ?? []);
const minute = computed(() => (saved.value ? minuteNow(saved.value, now.value) : 0));
const nameOf = (id: string): string =>
  classroom.detail?.trainees.find((t) => t.id === id)?.name ?? 'Somebody who left';
const labelOf = (id: string | null): string => classroom.detail?.things.find((t) => t.id === id)?.label ?? '';
const titleOf = (id: string): string => methods.value?.find((m) => m.versionId === id)?.title ?? '';
const clock = (at: number): string => (saved.value ? timeOfDay(instantOf(saved.value, at)) : '');

const benches = computed(() =>
  saved.value
    ? traineesNow(saved.value, minute.value).map((t) => {
        const open = live.attempts.filter((a) => a.attempt.traineeId === t.traineeId);
        const isAtIt = t.now !== null && open.some((a) => a.attempt.methodVersionId === t.now!.versionId);
        return { ...t, open, isAtIt };
      })
    : [],
);
const behind = useBehind(
  () => saved.value,
  () => minute.value,
  () => reply.found.value?.signed ?? [],
  () => methods.value ?? [],
);
const isBehind = computed(() => [...behind.value.values()].some((m) => m >= WORTH_SAYING));
const benchOf = (traineeId: string): string => labelOf(saved.value?.benches[traineeId] ?? null);
const traysIn = (ovenId: string, way: OvenWay, ids: readonly string[]): string[] => {
  const oven = saved.value?.ovens.find((o) => o.id === ovenId);
  const trays = way === 'flat' ? traysOf(ids, oven) : [];
  return trays.length < 2 ? [names(ids)] : trays.map((t, i) => `Tray ${i + 1}: ${names(t)}`);
};
const stations = computed(() => (saved.value ? stationsNow(saved.value, minute.value) : []));
const inside = computed(() => loadsInside(loads.value, now.value));
const toCome = computed(() => (saved.value ? loadsToCome(saved.value, loads.value) : []));
const names = (ids: readonly string[]): string => [...new Set(ids)].map(nameOf).join(', ');

async function act(work: () => Promise<unknown>): Promise<void> {
  if (await acts.act(work)) await reply.again();
}
const params = computed(() => ({ id: props.classId, day: day.value }));
const loaded = (load: LoadNow): Promise<void> =>
  act(() =>
    request(ROUTES.startLoad, {
      params: params.value,
      body: {
        id: v7(),
        ovenId: load.ovenId,
        schedule: load.schedule,
        members: [...load.traineeIds],
        minutes: load.minutes,
      },
    }),
  );
const takenOut = (loadId: string): Promise<void> =>
  act(() => request(ROUTES.takeLoadOut, { params: { ...params.value, loadId } }));
</script>

<template>
  <section class="section" :class="{ room: isRoom }">
    <div class="row spread">
      <h1>{{ timeOfDay(new Date(now).toISOString()) }}</h1>
      <el-button size="large" :aria-pressed="isRoom" @click="setRoom(!isRoom)">{{
        isRoom ? 'At arm’s length' : 'For the room'
      }}</el-button>
    </div>
    <p v-if="reply.failure.value ?? acts.failure.value" class="notice bad" role="alert">
      {{ reply.failure.value ?? acts.failure.value }}
    </p>
    <p v-if="reply.found.value && !saved?.plan" class="empty">
      Today is not planned yet.
      <RouterLink class="act next" :to="{ query: { view: 'plan' } }">Plan the day</RouterLink>
    </p>
    <p v-if="warned.length > 0 && !isRoom" class="notice" data-test="warned">
      <RouterLink :to="{ query: { view: 'stock' } }">Stock:</RouterLink>
      {{
        warned
          .slice(0, 4)
          .map((t) => `${t.label} ${WARNING_WORDS[t.warnings[0]!]}`)
          .join('; ')
      }}{{ warned.length > 4 ? `; ${warned.length - 4} more` : '' }}.
    </p>
    <template v-if="inside.length > 0 || toCome.length > 0">
      <h2>Ovens</h2>
      <ul class="loads">
        <li v-for="{ load, left } in inside" :key="load.id" :class="{ due: left <= 0 }" data-test="load">
          <b class="big">{{ left > 0 ? clockText(left) : 'Take out' }}</b>
          <span>
            <b>{{ labelOf(load.ovenId) }}</b> {{ load.schedule
            }}<template v-if="left <= 0">, due {{ agoWords(Date.parse(load.endsAt), now) }}</template>
          </span>
          <el-button
            size="large"
            :type="left <= 0 ? 'primary' : 'default'"
            data-test="take-out"
            @click="takenOut(load.id)"
            >Taken out</el-button
          >
          <span class="soft all">{{ names(load.members) }}</span>
        </li>
        <li
          v-for="load in toCome.slice(0, isRoom ? 2 : 4)"
          :key="`${load.ovenId} ${load.from}`"
          data-test="to-come"
        >
          <b class="big soft">{{ clock(load.from) }}</b>
          <span>
            <b>{{ labelOf(load.ovenId) }}</b> {{ load.schedule }}, {{ load.traineeIds.length }}
            {{ load.traineeIds.length === 1 ? 'piece' : 'pieces' }}
            <b v-if="load.from < minute" class="off">{{ minute - load.from }} min late</b>
          </span>
          <el-button size="large" data-test="loaded" @click="loaded(load)">Loaded</el-button>
          <span v-for="t in traysIn(load.ovenId, load.way, load.traineeIds)" :key="t" class="soft all">{{
            t
          }}</span>
        </li>
      </ul>
    </template>
    <template v-if="benches.length > 0">
      <h2>Benches</h2>
      <p v-if="isBehind && !isRoom">
        <RouterLink class="act next" :to="{ query: { view: 'plan', differently: 'yes' } }"
          >Plan the rest again with those who are behind</RouterLink
        >
      </p>
      <ul class="benches">
        <li v-for="b in benches" :key="b.traineeId" data-test="bench-now">
          <span>
            <b class="who">{{ nameOf(b.traineeId) }}</b>
            <span v-if="benchOf(b.traineeId)" class="soft block">{{ benchOf(b.traineeId) }}</span>
          </span>
          <span>
            <template v-if="b.now">
              {{ b.now.name }}<template v-if="b.now.thingId">, {{ labelOf(b.now.thingId) }}</template>
              <span class="soft"> until {{ clock(b.now.to) }}</span>
              <span class="soft block">{{ titleOf(b.now.versionId) }}</span>
            </template>
            <span v-else class="soft">nothing planned now</span>
          </span>
          <span class="is">
            <RouterLink
              v-for="a in b.open.slice(0, 2)"
              :key="a.attempt.id"
              :to="{ name: 'sheet', params: { classId, attemptId: a.attempt.id } }"
              >{{ a.attempt.pieceLabel }}, begun
              {{ agoWords(Date.parse(a.attempt.startedAt), now) }}</RouterLink
            >
            <b v-if="b.now && !b.isAtIt" class="off">{{
              b.open.length === 0 ? 'not begun' : 'at something else'
            }}</b>
            <b v-if="(behind.get(b.traineeId) ?? 0) >= WORTH_SAYING" class="off" data-test="behind"
              >{{ behind.get(b.traineeId) }} min behind</b
            >
          </span>
          <span class="soft next">
            <template v-if="b.next">{{ clock(b.next.from) }} {{ b.next.name }}</template>
            <template v-else>done after that</template>
          </span>
        </li>
      </ul>
    </template>
    <template v-if="stations.length > 0 && !isRoom">
      <h2>Stations</h2>
      <ul class="benches stations">
        <li v-for="s in stations" :key="s.thingId">
          <b class="who">{{ labelOf(s.thingId) }}</b>
          <span>{{ s.now ? nameOf(s.now) : 'free' }}</span>
          <span class="soft next">
            <template v-if="s.next">next {{ nameOf(s.next.traineeId) }}, {{ clock(s.next.from) }}</template>
          </span>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.room {
  zoom: 1.35;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.loads {
  display: grid;
  gap: 8px;
  grid-template-columns: repeat(auto-fill, minmax(360px, 1fr));
}
.loads li {
  display: grid;
  grid-template-columns: auto 1fr auto;
  align-content: start;
  gap: 12px;
  align-items: center;
  border: 1px solid var(--hair);
  border-radius: var(--round);
  padding: 8px 12px;
}
.loads .due {
  border: 2px solid var(--fail);
  background: var(--fail-wash);
}
/* Under the line, as wide as the card. */
.all {
  grid-column: 1 / -1;
}
.big {
  white-space: nowrap;
  font-size: 1.5rem;
  font-variant-numeric: tabular-nums;
}
.block {
  display: block;
}
.benches li {
  display: grid;
  grid-template-columns: 180px 1.4fr 1fr 1fr;
  gap: 4px 14px;
  align-items: center;
  min-height: var(--tap);
  border-top: 1px solid var(--hair);
  padding: 4px 0;
}
.stations li {
  grid-template-columns: 180px 1fr 1.4fr;
}
.is {
  display: grid;
}
.off {
  color: var(--marginal);
}
@media (max-width: 800px) {
  .benches li,
  .stations li {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
