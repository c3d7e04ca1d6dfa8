<script setup lang="ts">
/** Measures what a row asks for in a picture. */
const emit = defineEmits<{ picture: [] }>();
</script>

<template>
  <button
    class="act"
    type="button"
    aria-label="By a picture"
    title="By a picture"
    data-test="measure-picture"
    @click="emit('picture')"
  >
    <svg viewBox="0 0 24 24" width="26" height="26" aria-hidden="true">
      <path d="M3 8h4l2-3h6l2 3h4v11H3z" />
      <circle cx="12" cy="13" r="3.6" />
    </svg>
  </button>
</template>

<style scoped>
.act {
  min-width: 52px;
  padding: 0 8px;
}
svg {
  display: block;
  margin: 0 auto;
  fill: none;
  stroke: currentColor;
  stroke-width: 2;
  stroke-linejoin: round;
}
</style>
