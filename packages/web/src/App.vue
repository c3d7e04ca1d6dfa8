<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { computed, defineAsyncComponent, watch } from 'vue';
import { useRoute } from 'vue-router';
import { usePreferences } from './shell/preferences.ts';
import TimerStrip from './shell/TimerStrip.vue';
import TopBar from './shell/TopBar.vue';
import { useSession } from './session/session.ts';
import { timers } from './shell/timers.ts';
import { useScanPlace } from './shell/use-scan-place.ts';
import { useScanner } from './shell/use-scanner.ts';
import { useClassroom } from './classroom/use-classroom.ts';
import { opensFind } from './shell/find.model.ts';
import { useFind } from './shell/use-find.ts';
import { useLiveOutcomes } from './classroom/live-outcomes.ts';
import { OvenStrip } from './features/day/index.ts';
import { sayTimesIn } from './shared/time-words.ts';

/** Comes when it is first asked for. */
const FindPanel = defineAsyncComponent(() => import('./shell/FindPanel.vue'));
usePreferences();
const find = useFind();
const classroom = useClassroom();
const live = useLiveOutcomes();
const session = useSession();
const route = useRoute();
const bare = computed(
  () => route.name === 'start' || route.name === 'join' || route.name === 'verify' || session.me === null,
);
// A trainee's own pages name no class; one who is in several of different zones sees those of the first.
watch(() => session.zoneOf(String(route.params['classId'] ?? session.classes[0]?.id ?? '')), sayTimesIn, {
  immediate: true,
});
/** The class that this device follows: the one of the place, as long as an instructor is signed in. */
watch(
  () => (session.teaches ? String(route.params['classId'] ?? '') : ''),
  (id, before) => {
    if (id !== '') void classroom.open(id);
    else if (before && !session.teaches) classroom.close();
  },
  { immediate: true },
);
/** A scanned label opens what it names: a piece, a trainee's sheet, equipment, a method. Other scans are left to the page. */
useScanner(useScanPlace());
useEventListener(window, 'keydown', (event) => {
  if (bare.value) return;
  if (find.take(event)) return event.preventDefault();
  if (find.isOpen || !opensFind(event)) return;
  event.preventDefault();
  find.open();
});
timers.follow(() => ({ timers: live.timers, offsetMs: classroom.offsetMs }));
</script>

<template>
  <a class="skip" href="#main">Skip to the work</a>
  <TopBar v-if="!bare" />
  <TimerStrip v-if="!bare" />
  <OvenStrip v-if="!bare && classroom.detail" :class-id="classroom.classId" />
  <FindPanel v-if="!bare && find.isOpen" />
  <main id="main" tabindex="0">
    <RouterView v-slot="{ Component }">
      <component :is="Component" :key="route.path" />
    </RouterView>
  </main>
</template>

<style>
.skip {
  position: absolute;
  left: -999px;
  background: var(--sheet);
  padding: 10px;
  z-index: 50;
}
.skip:focus {
  left: 8px;
  top: 8px;
}
main:focus {
  outline: none;
}
</style>
