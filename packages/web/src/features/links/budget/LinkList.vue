<script setup lang="ts">
import type { ClassLink } from '@clear-mark/contract';
import { EXAMPLE_LINKS } from '@clear-mark/methods/loss';
import { v7 } from 'uuid';
import ActMenu from '../../../shared/ActMenu.vue';
import { freshLabel, newLink } from './link.model.ts';

/** The links of the class, and the ways to describe another: from nothing, or from a shipped example. */
const props = defineProps<{
  links: readonly ClassLink[];
  chosenId: string | null;
  /** The chosen one's name as it is being written. */
  chosenLabel: string | null;
}>();
const emit = defineEmits<{ choose: [id: string]; start: [link: ClassLink] }>();

const known = (): Set<string> => new Set(props.links.map((l) => l.label));
/** A copy of a shipped example, under a name of its own. */
function beginFrom(called: string): void {
  const example = EXAMPLE_LINKS.find((l) => l.label === called);
  if (!example) return;
  const label = freshLabel(example.label, known());
  emit('start', { ...newLink(v7(), label), ...(structuredClone(example) as object), label } as ClassLink);
}
function begin(): void {
  let n = props.links.length + 1;
  while (known().has(`Link ${n}`)) n += 1;
  emit('start', newLink(v7(), `Link ${n}`));
}
</script>

<template>
  <nav aria-label="Links of the class">
    <el-button
      v-for="l in links.filter((x) => !x.retired || x.id === chosenId)"
      :key="l.id"
      size="large"
      class="pick"
      :aria-pressed="l.id === chosenId"
      @click="emit('choose', l.id)"
    >
      {{ l.id === chosenId && chosenLabel !== null ? chosenLabel : l.label }}
    </el-button>
    <p v-if="links.length === 0" class="soft">No link described yet.</p>
    <el-button size="large" :type="links.length === 0 ? 'primary' : 'default'" @click="begin"
      >New link</el-button
    >
    <ActMenu
      label="From an example"
      name="New link from an example"
      :acts="EXAMPLE_LINKS.map((e) => ({ value: e.label, label: e.label }))"
      @choose="beginFrom"
    />
  </nav>
</template>

<style scoped>
nav {
  display: grid;
  gap: 8px;
  align-content: start;
}
.pick {
  justify-content: flex-start;
  text-align: left;
  padding: 6px 12px;
}
@media (max-width: 900px) {
  nav {
    display: flex;
    flex-wrap: wrap;
  }
}
</style>
