<script setup lang="ts">
import { computed, defineAsyncComponent, onMounted } from 'vue';
import { useRoute } from 'vue-router';
import { useClassroom } from '../../classroom/use-classroom.ts';
import { PLACE_VIEWS } from '../../shell/places.ts';
import ViewSwitch from '../../shared/ViewSwitch.vue';

/** A class day: who works on what and when, what is going on now, what there is and what has to be bought. */
const props = defineProps<{ classId: string }>();
const route = useRoute();
const classroom = useClassroom();

const PANELS = {
  plan: defineAsyncComponent(() => import('./plan/PlanPanel.vue')),
  now: defineAsyncComponent(() => import('./now/NowPanel.vue')),
  stock: defineAsyncComponent(() => import('./stock/StockPanel.vue')),
  shopping: defineAsyncComponent(() => import('./shopping/ShoppingPanel.vue')),
};
const VIEWS = PLACE_VIEWS.day;
const current = computed(() => VIEWS.find((v) => v.id === route.query['view']) ?? VIEWS[0]);

onMounted(() => void classroom.open(props.classId));
</script>

<template>
  <div class="page">
    <ViewSwitch place="Day" :views="VIEWS" :current="current.id">
      <component :is="PANELS[current.id]" :class-id="classId" />
    </ViewSwitch>
  </div>
</template>
