<script setup lang="ts">
import { call, ROUTES } from '../../api/client.ts';
import { useSession } from '../../session/session.ts';
import { useLoaded } from '../../shared/use-loaded.ts';
import { OwnCalls } from '../faces/index.ts';
import OwnBench from './OwnBench.vue';
import OwnPieces from './OwnPieces.vue';
import OwnSkills from './OwnSkills.vue';

/** A trainee's home: the bench, how the skills stand and what is missing, blind calls, the own pieces. */
const session = useSession();
const { found, failure, again } = useLoaded(
  () => session.me?.id,
  async () => {
    const [list, benches, skills] = await Promise.all([
      call(ROUTES.ownRecord, {}),
      call(ROUTES.ownBench, {}),
      call(ROUTES.ownSkills, {}),
    ]);
    return { list, benches, skills };
  },
);
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
      <OwnSkills v-for="s in found.skills" :key="s.classId" :own="s" />
      <OwnCalls />
      <OwnPieces :rows="found.list.rows" />
    </template>
  </div>
</template>
