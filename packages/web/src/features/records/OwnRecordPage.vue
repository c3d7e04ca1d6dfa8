<script setup lang="ts">
import { computed } from 'vue';
import { ROUTES } from '../../api/client.ts';
import { useReply } from '../../api/queries.ts';
import { useSession } from '../../session/session.ts';
import { OwnDays } from '../day/index.ts';
import { OwnCalls } from '../faces/index.ts';
import { OwnTraceSeries } from '../links/index.ts';
import OwnBench from './OwnBench.vue';
import OwnPieces from './OwnPieces.vue';
import OwnSkills from './OwnSkills.vue';

/** A trainee's home: the bench, how the skills stand and what is missing, blind calls, the own pieces. */
const session = useSession();
const list = useReply(ROUTES.ownRecord, () => ({}));
const benches = useReply(ROUTES.ownBench, () => ({}));
const skills = useReply(ROUTES.ownSkills, () => ({}));
const found = computed(() =>
  list.found.value && benches.found.value && skills.found.value
    ? { list: list.found.value, benches: benches.found.value, skills: skills.found.value }
    : null,
);
const failure = computed(() => list.failure.value ?? benches.failure.value ?? skills.failure.value);
const again = (): Promise<unknown> => Promise.all([list.again(), benches.again(), skills.again()]);
</script>

<template>
  <div class="page">
    <h1>{{ session.me?.name }}</h1>
    <p v-if="failure" class="notice bad" role="alert">
      {{ failure }} <el-button size="large" @click="again">Try again</el-button>
    </p>
    <el-skeleton v-if="!found && !failure" :rows="8" animated />
    <template v-if="found">
      <OwnBench v-for="b in found.benches" :key="b.classId" :bench="b" />
      <OwnDays />
      <OwnSkills v-for="s in found.skills" :key="s.classId" :own="s" />
      <OwnCalls />
      <OwnTraceSeries />
      <OwnPieces :rows="found.list.rows" />
    </template>
  </div>
</template>
