<script setup lang="ts">
import type { InputInstance } from 'element-plus';
import { storeToRefs } from 'pinia';
import { computed, defineAsyncComponent, ref, useTemplateRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import { useClassroom } from '../classroom/use-classroom.ts';
import { useSession } from '../session/session.ts';
import VerdictRing from '../shared/VerdictRing.vue';
import { type Finding, findingsFor } from './find.model.ts';
import { usePreferences } from './preferences.ts';
import { useFind } from './use-find.ts';
import { vFocus } from '../shared/v-focus.ts';

/** One field that leads to a trainee, a piece, a method, a place or an act: by key, by touch, by mouse. */
const CameraScan = defineAsyncComponent(() => import('./CameraScan.vue'));
const router = useRouter();
const classroom = useClassroom();
const session = useSession();
const preferences = usePreferences();
const find = useFind();
const { text } = storeToRefs(find);
const field = useTemplateRef<InputInstance>('field');
/** Element Plus hands no role on to its input. */
watch(field, (shown) => shown?.input?.setAttribute('role', 'combobox'), { flush: 'post' });
const at = ref(0);
const scanning = ref(false);
watch(
  () => find.isOpen,
  () => (scanning.value = false),
);
const hits = computed((): Finding[] => {
  const typed = text.value.trim();
  const found = findingsFor(typed, find.all);
  if (typed === '' || !session.teaches || classroom.classId === '') return found;
  const records: Finding = {
    key: 'records of',
    label: `Records of “${typed}”`,
    detail: 'search',
    verdict: null,
    to: { name: 'records', params: { classId: classroom.classId }, query: { search: typed } },
    act: null,
  };
  return [...found, records];
});
watch(text, () => {
  at.value = 0;
  scanning.value = false;
});
function move(by: number): void {
  const n = hits.value.length;
  if (n > 0) at.value = (at.value + by + n) % n;
}
async function go(hit: Finding | undefined): Promise<void> {
  if (!hit) return;
  find.isOpen = false;
  if (hit.to) await router.push(hit.to);
  else if (hit.act === 'day') preferences.setTheme('light');
  else if (hit.act === 'night') preferences.setTheme('dark');
  else if (hit.act === 'contrast') preferences.setContrast(!preferences.contrast);
  else {
    await session.signOut();
    await router.push({ name: 'start' });
  }
}
</script>

<template>
  <el-dialog v-model="find.isOpen" title="Find" width="560" append-to-body>
    <el-input
      ref="field"
      v-model="text"
      v-focus
      size="large"
      aria-label="Trainee, piece, method, place or act"
      aria-controls="find-hits"
      aria-expanded="true"
      :aria-activedescendant="hits.length > 0 ? `find-hit-${at}` : undefined"
      placeholder="Trainee, piece, method, place or act"
      @keydown.down.prevent="move(1)"
      @keydown.up.prevent="move(-1)"
      @keydown.enter.prevent="go(hits[at])"
    />
    <div v-if="session.teaches && classroom.classId !== ''" class="scan">
      <el-button v-if="!scanning" size="large" @click="scanning = true"
        >Scan a label with the camera</el-button
      >
      <CameraScan v-else @opened="find.isOpen = false" />
    </div>
    <ul v-show="!scanning" id="find-hits" role="listbox" aria-label="Found">
      <li
        v-for="(hit, i) in hits"
        :id="`find-hit-${i}`"
        :key="hit.key"
        role="option"
        class="hit"
        :class="{ here: i === at }"
        :aria-selected="i === at"
        @pointermove="at = i"
        @click="go(hit)"
      >
        <VerdictRing v-if="hit.verdict" :verdict="hit.verdict" :share="0" :size="22" />
        <b>{{ hit.label }}</b><span class="soft">{{ hit.detail }}</span>
      </li>
    </ul>
    <p v-if="hits.length === 0 && !scanning" class="soft">Nobody and nothing here is called that.</p>
  </el-dialog>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
}
.hit {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: var(--tap);
  padding: 2px 10px;
  border-bottom: 1px solid var(--hair);
  cursor: pointer;
}
.hit .soft {
  margin-left: auto;
  text-align: right;
}
.scan {
  margin-top: 10px;
}
.hit.here {
  background: var(--accent-wash);
}
</style>
