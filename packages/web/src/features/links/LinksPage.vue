<script setup lang="ts">
import { computed, defineAsyncComponent, onMounted } from 'vue';
import { useRoute } from 'vue-router';
import { useClassroom } from '../../classroom/use-classroom.ts';
import { PLACE_VIEWS } from '../../shell/places.ts';
import ViewSwitch from '../../shared/ViewSwitch.vue';
import { ReferencesPanel } from '../references/index.ts';

/** What should this link lose, what did it, why. One view at a time, kept in the address. */
const props = defineProps<{ classId: string }>();
const route = useRoute();
const classroom = useClassroom();

const PANELS = {
  link: defineAsyncComponent(() => import('./budget/LinkPanel.vue')),
  ports: defineAsyncComponent(() => import('./polarity/PortsPanel.vue')),
  references: ReferencesPanel,
  splices: defineAsyncComponent(() => import('./splices/SplicesPanel.vue')),
  costs: defineAsyncComponent(() => import('./joint/CostsPanel.vue')),
  traces: defineAsyncComponent(() => import('./traces/TracesPanel.vue')),
  bench: defineAsyncComponent(() => import('./instruments/BenchPanel.vue')),
};
const VIEWS = PLACE_VIEWS.links;
const current = computed(() => VIEWS.find((v) => v.id === route.query['view']) ?? VIEWS[0]);

onMounted(() => void classroom.open(props.classId));
</script>

<template>
  <div class="page">
    <ViewSwitch place="Links" :views="VIEWS" :current="current.id">
      <component :is="PANELS[current.id]" :class-id="classId" />
    </ViewSwitch>
  </div>
</template>
