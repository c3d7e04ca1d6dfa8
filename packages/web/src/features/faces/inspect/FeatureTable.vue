<script setup lang="ts">
import type { ShownFeature } from './face-view.model.ts';

/** What was found, tied to the drawing by number; each can be rejected or be of the other kind. */
defineProps<{ features: readonly ShownFeature[]; chosen: number | null }>();
const emit = defineEmits<{
  choose: [number: number];
  reject: [feature: ShownFeature];
  kind: [feature: ShownFeature];
}>();
</script>

<template>
  <p v-if="features.length === 0" class="soft">Nothing that stands out of the glass.</p>
  <ul v-else class="list">
    <li
      v-for="f in features"
      :key="f.number"
      :class="{ chosen: chosen === f.number, rejected: f.rejected }"
      :data-feature="f.number"
    >
      <button
        class="main"
        type="button"
        :aria-pressed="chosen === f.number"
        @click="emit('choose', f.number)"
      >
        <span class="number">{{ f.number }}</span>
        <span class="what">
          <b>{{ f.kind }}</b><span v-if="f.changed" class="soft small"> as you say</span
          ><span v-if="f.origin.by === 'hand'" class="soft small"> added</span>
          <span class="soft small block">
            <template v-if="f.rejected">not counted</template>
            <template v-else>
              zone {{ f.zones.join(', ') || 'none' }}<template v-if="f.decides">, decides</template>
            </template>
          </span>
        </span>
        <span class="size">
          {{ f.sizeUm.toFixed(1) }}<span class="unit"> µm</span>
          <span class="soft small block">
            <template v-if="f.lengthUm !== null">{{ f.lengthUm.toFixed(0) }} long</template>
            <template v-else-if="f.uncertaintyUm !== null"
              >± {{ f.uncertaintyUm.toFixed(1)
              }}<template v-if="f.areaUm2 !== null">, {{ f.areaUm2.toFixed(0) }} µm²</template></template
            >
          </span>
        </span>
      </button>
      <template v-if="chosen === f.number">
        <div class="row acts">
          <el-button size="large" @click="emit('reject', f)">
            {{ f.origin.by === 'hand' ? 'Remove' : f.rejected ? 'Count it' : 'Reject' }}
          </el-button>
          <el-button v-if="f.origin.by === 'engine' && !f.rejected" size="large" @click="emit('kind', f)">
            It is a {{ f.kind === 'scratch' ? 'defect' : 'scratch' }}
          </el-button>
        </div>
      </template>
    </li>
  </ul>
</template>

<style scoped>
.list {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
  max-height: 300px;
  overflow: auto;
  border-top: 1px solid var(--hair);
}
li {
  border-bottom: 1px solid var(--hair);
  border-left: 4px solid transparent;
}
li.chosen {
  background: var(--accent-wash);
  border-left-color: var(--accent);
}
li.rejected .what b,
li.rejected .size {
  text-decoration: line-through;
  color: var(--ink-soft);
}
.main {
  display: grid;
  grid-template-columns: 34px minmax(0, 1fr) auto;
  align-items: center;
  gap: 8px;
  width: 100%;
  min-height: 52px;
  padding: 2px 8px;
  border: 0;
  background: transparent;
  text-align: left;
  cursor: pointer;
}
.number {
  font-weight: 700;
  font-size: 1.125rem;
  text-align: right;
}
.block {
  display: block;
}
.size {
  text-align: right;
  font-weight: 700;
}
.acts {
  padding: 0 8px 8px 50px;
}
</style>
