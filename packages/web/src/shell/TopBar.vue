<script setup lang="ts">
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import QueueState from './QueueState.vue';
import { useSession } from '../session/session.ts';
import { takeUpdate, updateWaiting } from './update.ts';
import { PLACES } from './places.ts';
import { useFind } from './use-find.ts';
import ChangePerson from './ChangePerson.vue';
import PersonMenu from './PersonMenu.vue';
import ChoiceField from '../shared/ChoiceField.vue';

const session = useSession();
const find = useFind();
const route = useRoute();
const router = useRouter();

const classId = computed(() => String(route.params['classId'] ?? session.classes[0]?.id ?? ''));
const current = computed(() => session.classes.find((c) => c.id === classId.value) ?? null);
const places = computed(() => (current.value && session.teaches ? PLACES : []));
const INSIDE: Readonly<Record<string, string>> = {
  sheet: 'today',
  amend: 'records',
  reports: 'records',
  evidence: 'insight',
  safekeeping: 'setup',
};
const here = (name: string): boolean => (INSIDE[String(route.name)] ?? route.name) === name;

function openClass(id: string): void {
  if (id === '') void router.push({ name: 'classes' });
  else void router.push({ name: 'today', params: { classId: id } });
}
</script>

<template>
  <header class="bar">
    <RouterLink class="mark" to="/" aria-label="Clear Mark, start">
      <svg viewBox="0 0 32 32" width="28" height="28" aria-hidden="true">
        <circle cx="16" cy="16" r="11" fill="none" stroke="var(--ink)" stroke-width="4" />
        <circle cx="16" cy="16" r="2.4" fill="var(--accent)" />
      </svg>
      <span>Clear Mark</span>
    </RouterLink>
    <ChoiceField
      v-if="session.teaches"
      bare
      class="class lined"
      label="Class"
      none="All classes"
      :model-value="classId"
      :options="session.classes.map((c) => ({ value: c.id, label: c.name }))"
      @change="openClass"
    />
    <nav aria-label="Places">
      <RouterLink
        v-for="place in places"
        :key="place.name"
        class="place"
        :class="{ here: here(place.name) }"
        :aria-current="here(place.name) ? 'page' : undefined"
        :to="{ name: place.name, params: { classId } }"
        >{{ place.label }}</RouterLink
      >
    </nav>
    <span class="fill" />
    <el-button v-if="updateWaiting" size="large" type="primary" @click="takeUpdate">
      New version: load it
    </el-button>
    <el-button
      size="large"
      text
      class="find"
      aria-label="Find, key /"
      title="Find: key /"
      @click="find.open()"
    >
      <svg viewBox="0 0 24 24" width="22" height="22" aria-hidden="true">
        <circle cx="10" cy="10" r="6" fill="none" stroke="currentColor" stroke-width="2.4" />
        <path d="M14.6 14.6 21 21" stroke="currentColor" stroke-width="2.8" stroke-linecap="round" />
      </svg>
    </el-button>
    <QueueState />
    <ChangePerson v-if="session.start?.byPin" />
    <PersonMenu />
  </header>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 4px;
  padding: 4px 14px;
  border-bottom: 1px solid var(--hair);
  background: var(--sheet);
  min-height: 56px;
  flex-wrap: wrap;
}
.find {
  padding: 0 10px;
}
.mark {
  display: inline-flex;
  align-items: center;
  gap: 8px;
  min-height: var(--tap);
  color: var(--ink);
  text-decoration: none;
  font-weight: 700;
  margin-right: 6px;
}
.bar :deep(.class) {
  max-width: 190px;
}
nav {
  display: flex;
  gap: 2px;
}
.place {
  min-height: var(--tap);
  padding: 0 8px;
  display: inline-flex;
  align-items: center;
  color: var(--ink);
  text-decoration: none;
  border-bottom: 3px solid transparent;
}
.place.here {
  border-color: var(--accent);
  font-weight: 700;
}
.fill {
  flex: 1;
}
.who {
  flex-direction: column;
  align-items: flex-end;
  justify-content: center;
  gap: 0;
  line-height: 1.15;
  padding: 0 4px;
}
.who .name {
  max-width: 150px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
@media (max-width: 800px) {
  .mark,
  .who .name {
    display: none;
  }
  .bar :deep(.class) {
    max-width: 92px;
  }
  .bar {
    padding: 4px 6px;
    gap: 0;
  }
  nav {
    gap: 0;
  }
  .place {
    padding: 0 4px;
    font-size: 0.9375rem;
  }
  .bar .el-button {
    padding: 0 3px;
    min-width: 0;
  }
}
@media (max-width: 430px) {
  /* All places in one line of a phone. */
  nav {
    flex-wrap: wrap;
  }
  .place {
    padding: 0 3px;
    font-size: 0.875rem;
  }
}
</style>
