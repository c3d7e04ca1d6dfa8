<script setup lang="ts">
import type { FaceRow } from '@clear-mark/contract';
import { pictureUrl } from '../../../api/client.ts';
import KeptPicture from '../../../shared/KeptPicture.vue';
import VerdictRing from '../../../shared/VerdictRing.vue';

/** The pictures that the class keeps, newest first: each opens again. */
defineProps<{ classId: string; rows: readonly FaceRow[]; openId: string | null }>();
const emit = defineEmits<{ open: [id: string] }>();
</script>

<template>
  <section class="section kept" aria-label="Kept pictures">
    <h2>Kept pictures</h2>
    <p v-if="rows.length === 0" class="soft">
      None yet. What you keep stands here, with its verdicts, and can be called blind later.
    </p>
    <ul v-else>
      <li v-for="r in rows" :key="r.id">
        <button class="tile" type="button" :aria-pressed="openId === r.id" @click="emit('open', r.id)">
          <KeptPicture :src="pictureUrl(classId, r.id)" alt="" lazy :width="132" :height="99" />
          <span class="row line">
            <VerdictRing v-if="r.verdict" :verdict="r.verdict" :size="22" word />
            <span v-else class="soft">not graded</span>
          </span>
          <span class="small soft words">{{
            r.pieceLabel ? `${r.traineeName}, ${r.pieceLabel}` : r.label
          }}</span>
          <span v-if="r.beforeId" class="small soft">after cleaning</span>
        </button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  display: flex;
  gap: 12px;
  flex-wrap: wrap;
}
.tile {
  display: grid;
  gap: 2px;
  width: 148px;
  min-height: 168px;
  align-content: start;
  padding: 7px;
  border: 1px solid var(--hair);
  border-radius: var(--round);
  background: var(--sheet);
  text-align: left;
  cursor: pointer;
}
.tile[aria-pressed='true'] {
  border-color: var(--accent);
  box-shadow: inset 0 0 0 1px var(--accent);
}
img {
  width: 132px;
  height: 99px;
  object-fit: cover;
  background: #000;
}
.line {
  min-height: 26px;
}
.words {
  overflow-wrap: anywhere;
}
</style>
