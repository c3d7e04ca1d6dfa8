<script setup lang="ts">
import { computed, defineAsyncComponent, onMounted } from 'vue';
import { useRoute } from 'vue-router';
import { useClassroom } from '../../classroom/use-classroom.ts';
import ViewSwitch from '../../shared/ViewSwitch.vue';

/** What should this link lose, what did it, why. One view at a time, kept in the address. */
const props = defineProps<{ classId: string }>();
const route = useRoute();
const classroom = useClassroom();

const VIEWS = [
  { id: 'link', label: 'Loss budget', view: defineAsyncComponent(() => import('./budget/LinkPanel.vue')) },
  { id: 'ports', label: 'Polarity', view: defineAsyncComponent(() => import('./polarity/PortsPanel.vue')) },
  {
    id: 'references',
    label: 'References',
    view: defineAsyncComponent(() => import('../references/index.ts').then((m) => m.ReferencesPanel)),
  },
  { id: 'splices', label: 'Splices', view: defineAsyncComponent(() => import('./splices/SplicesPanel.vue')) },
  { id: 'costs', label: 'Joint loss', view: defineAsyncComponent(() => import('./joint/CostsPanel.vue')) },
  {
    id: 'bench',
    label: 'Instruments',
    view: defineAsyncComponent(() => import('./instruments/BenchPanel.vue')),
  },
] as const;
const current = computed(() => VIEWS.find((v) => v.id === route.query['view']) ?? VIEWS[0]);

onMounted(() => void classroom.open(props.classId));
</script>

<template>
  <div class="page">
    <ViewSwitch place="Links" :views="VIEWS" :current="current.id">
      <component :is="current.view" :class-id="classId" />
    </ViewSwitch>
  </div>
</template>
