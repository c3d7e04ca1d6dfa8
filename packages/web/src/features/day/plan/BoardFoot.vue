<script setup lang="ts">
/** What is chosen on the board, and what its blocks mean. */
defineProps<{ isClose: boolean; told: string | null; isLocked: boolean }>();
defineEmits<{ closer: []; lock: [] }>();
</script>

<template>
  <div class="row under tools">
    <el-button size="large" :aria-pressed="isClose" @click="$emit('closer')">{{
      isClose ? 'The whole day' : 'Closer'
    }}</el-button>
    <p class="chosen" role="status">
      <template v-if="told">
        <b>{{ told }}</b>
        <el-button size="large" data-test="lock" @click="$emit('lock')">{{
          isLocked ? 'Unlock' : 'Lock'
        }}</el-button>
      </template>
      <span v-else class="soft"
        >Drag a block, or choose it and press the arrows; what was moved is locked there.</span
      >
    </p>
    <ul class="key small" aria-label="What the blocks mean">
      <li><span class="swatch" />at the bench</li>
      <li><span class="swatch station" />at a station</li>
      <li><span class="swatch cure" />in the oven</li>
      <li><span class="swatch wrong" />in conflict</li>
    </ul>
  </div>
</template>

<style scoped>
.under {
  margin-top: 8px;
  gap: 8px 18px;
}
.chosen {
  flex: 1;
  min-width: 280px;
  margin: 0;
  display: flex;
  align-items: center;
  gap: 10px;
}
.key {
  display: flex;
  gap: 14px;
  list-style: none;
  margin: 0;
  padding: 0;
}
.swatch {
  display: inline-block;
  width: 16px;
  height: 12px;
  border: 1px solid var(--hair-strong);
  background: var(--sunk);
  margin-right: 5px;
}
.swatch.station {
  background: var(--band);
  border-color: var(--accent);
}
.swatch.cure {
  background: var(--marginal-wash);
  border-color: var(--marginal);
}
.swatch.wrong {
  background: var(--fail-wash);
  border: 2px solid var(--fail);
}
</style>
