<script setup lang="ts">
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import { usePreferences } from './shell/preferences.ts';
import TimerStrip from './shell/TimerStrip.vue';
import TopBar from './shell/TopBar.vue';
import { useSession } from './shell/session.ts';

usePreferences();
const session = useSession();
const route = useRoute();
const bare = computed(() => route.name === 'start' || session.me === null);
</script>

<template>
  <a class="skip" href="#main">Skip to the work</a>
  <TopBar v-if="!bare" />
  <TimerStrip v-if="!bare" />
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
