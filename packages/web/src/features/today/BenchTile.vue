<script setup lang="ts">
import type { BoardTile } from '@clear-mark/contract';
import { VERDICT_WORDS } from '@clear-mark/words';
import { computed } from 'vue';
import VerdictRing from '../../shared/VerdictRing.vue';

const props = defineProps<{ tile: BoardTile; classId: string }>();
const emit = defineEmits<{ open: [] }>();
const since = computed(() => {
  const minutes = props.tile.open
    ? Math.max(0, Math.round((Date.now() - Date.parse(props.tile.open.startedAt)) / 60_000))
    : 0;
  return minutes < 90 ? `${minutes} min` : `${Math.round(minutes / 60)} h`;
});
</script>

<template>
  <article class="tile" :class="{ working: tile.open }" :data-trainee="tile.traineeName">
    <button class="main" type="button" @click="emit('open')">
      <VerdictRing v-if="tile.open" :verdict="tile.open.verdict" :share="tile.open.share" :size="54" />
      <span v-else class="idle" aria-hidden="true">+</span>
      <span class="text">
        <span class="name">{{ tile.traineeName }}</span>
        <span v-if="tile.open" class="what">
          {{ tile.open.verdict === 'incomplete' ? tile.open.stepTitle : VERDICT_WORDS[tile.open.verdict] }}
        </span>
        <span v-else class="soft">Start a piece</span>
        <span class="soft small">
          {{ tile.benchLabel ?? 'no bench yet'
          }}<template v-if="tile.open">
            · step {{ tile.open.stepNumber }} of {{ tile.open.steps }} · {{ since }}</template
          ><template v-else> · {{ tile.pieces }} pieces so far</template>
        </span>
      </span>
    </button>
    <div v-if="tile.today.length > 0" class="signed">
      <RouterLink
        v-for="piece in tile.today"
        :key="piece.attemptId"
        class="piece"
        :to="{ name: 'sheet', params: { classId, attemptId: piece.attemptId } }"
        ><VerdictRing :verdict="piece.verdict" :size="18" /> {{ piece.pieceLabel }}</RouterLink
      >
    </div>
  </article>
</template>

<style scoped>
.tile {
  border-top: 1px solid var(--hair);
  padding: 4px 0;
  min-height: 112px;
}
.main {
  width: 100%;
  display: flex;
  align-items: center;
  gap: 14px;
  border: 0;
  background: none;
  text-align: left;
  padding: 6px 4px;
  min-height: 72px;
  cursor: pointer;
  border-radius: var(--round);
}
.main:hover {
  background: var(--sunk);
}
.idle {
  width: 54px;
  height: 54px;
  flex: none;
  display: grid;
  place-items: center;
  border: 1px solid var(--hair-strong);
  border-radius: 50%;
  color: var(--ink-soft);
  font-size: 1.5rem;
  transform: scale(0.8);
}
.text {
  display: grid;
  min-width: 0;
}
.name {
  font-size: 1.125rem;
  font-weight: 700;
  overflow-wrap: anywhere;
}
.tile:not(.working) .name {
  font-weight: 400;
}
.signed {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  padding-left: 72px;
}
.piece {
  display: inline-flex;
  align-items: center;
  gap: 5px;
  min-height: 32px;
  color: var(--ink-soft);
  font-size: 0.9375rem;
  text-decoration: none;
}
.piece:hover {
  color: var(--ink);
  text-decoration: underline;
}
</style>
