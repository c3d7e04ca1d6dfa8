<script setup lang="ts">
import { ref } from 'vue';
import { useRouter } from 'vue-router';
import { wordsOf } from '../api/client.ts';
import { useSession } from '../session/session.ts';
import { initials } from '../shared/initials.ts';
import { type ThemeChoice, usePreferences } from './preferences.ts';
import UnitsChoice from './UnitsChoice.vue';

/** Who is signed in here, what this person prefers to see, and the way out. */
const session = useSession();
const preferences = usePreferences();
const router = useRouter();
const THEMES: { value: ThemeChoice; label: string }[] = [
  { value: 'device', label: 'By device' },
  { value: 'light', label: 'Day' },
  { value: 'dark', label: 'Night' },
];
const failure = ref<string | null>(null);
async function leave(): Promise<void> {
  failure.value = null;
  try {
    await session.signOut();
    await router.push({ name: 'start' });
  } catch (error) {
    failure.value = wordsOf(error);
  }
}
</script>

<template>
  <el-popover trigger="click" placement="bottom-end" :width="360" :persistent="false">
    <template #reference>
      <el-button size="large" text class="who" :aria-label="`${session.me?.name}: settings and sign out`">
        <span class="name">{{ session.me?.name }}</span>
        <span class="initials" aria-hidden="true">{{ initials(session.me?.name ?? '') }}</span>
      </el-button>
    </template>
    <div class="menu">
      <p><b>{{ session.me?.name }}</b> <span class="soft">{{ session.me?.role }}</span></p>
      <UnitsChoice />
      <div class="field">
        <span class="soft">Light</span>
        <el-segmented
          :model-value="preferences.choice"
          size="large"
          block
          aria-label="Light"
          :options="THEMES"
          @update:model-value="(choice: ThemeChoice) => preferences.setTheme(choice)"
        />
      </div>
      <el-switch
        :model-value="preferences.contrast"
        size="large"
        active-text="High contrast"
        aria-label="High contrast"
        @update:model-value="(on: string | number | boolean) => preferences.setContrast(Boolean(on))"
      />
      <el-switch
        :model-value="preferences.explained"
        size="large"
        active-text="Always tell how each step is done"
        aria-label="Always tell how each step is done"
        @update:model-value="(on: string | number | boolean) => preferences.setExplained(Boolean(on))"
      />
      <div class="row">
        <RouterLink class="act" :to="{ name: 'account' }">Your account</RouterLink>
        <RouterLink v-if="session.me?.role === 'lead'" class="act" :to="{ name: 'accounts' }"
          >Everybody’s accounts</RouterLink
        >
      </div>
      <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
      <el-button size="large" @click="leave">Sign out</el-button>
    </div>
  </el-popover>
</template>

<style scoped>
.menu {
  display: grid;
  gap: 14px;
}
.initials {
  display: none;
}
@media (max-width: 800px) {
  .name {
    display: none;
  }
  .initials {
    display: inline;
  }
}
</style>
