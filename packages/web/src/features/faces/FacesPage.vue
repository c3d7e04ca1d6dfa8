<script setup lang="ts">
import { FACE_CRITERIA } from '@clear-mark/core';
import { computed, defineAsyncComponent } from 'vue';
import { useRoute } from 'vue-router';
import { ROUTES } from '../../api/client.ts';
import { useReply } from '../../api/queries.ts';
import { PLACE_VIEWS } from '../../shell/places.ts';
import ViewSwitch from '../../shared/ViewSwitch.vue';

/** Is this end face good, and can this trainee see it. One view at a time, kept in the address. */
const props = defineProps<{ classId: string }>();
const route = useRoute();
// Without the server the shipped tables are there all the same.
const { found: own, again } = useReply(ROUTES.faceTables, () => ({ params: { id: props.classId } }));
const tables = computed(() => [...(own.value ?? []), ...FACE_CRITERIA]);

const PANELS = {
  grade: defineAsyncComponent(() => import('./inspect/GradePanel.vue')),
  many: defineAsyncComponent(() => import('./many/ManyPanel.vue')),
  calls: defineAsyncComponent(() => import('./calls/CallsPanel.vue')),
  criteria: defineAsyncComponent(() => import('./criteria/TablesPanel.vue')),
};
const VIEWS = PLACE_VIEWS.faces;
const current = computed(() => VIEWS.find((v) => v.id === route.query['view']) ?? VIEWS[0]);
</script>

<template>
  <div class="page">
    <h1 class="sr">Faces</h1>
    <ViewSwitch place="Faces" :views="VIEWS" :current="current.id">
      <component :is="PANELS[current.id]" :class-id="classId" :tables="tables" @saved="again" />
    </ViewSwitch>
  </div>
</template>
