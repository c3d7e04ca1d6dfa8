<script setup lang="ts">
import {
  faceReflectance,
  gapLossDb,
  gapReflectionDb,
  GLASS_INDEX,
  jointLoss,
  multimodeMismatch,
  returnLossDb,
} from '@clear-mark/core';
import { computed, reactive } from 'vue';

/** What costs what: the physics of a joint to be moved by hand, for teaching. */
defineProps<{ classId: string }>();
/** Usual field radii, um, by wavelength; typical of today's fiber, from memory. */
const RADIUS: Readonly<Record<1310 | 1550, number>> = { 1310: 4.6, 1550: 5.2 };

const set = reactive({ nm: 1310 as 1310 | 1550, offset: 1, tilt: 0.5, other: 0, gap: 0, gel: false });
const from = computed(() => RADIUS[set.nm]);
const into = computed(() => from.value + set.other);
const index = computed(() => (set.gap > 0 && !set.gel ? 1 : GLASS_INDEX));
const joint = computed(() =>
  jointLoss({
    fromRadiusUm: from.value,
    intoRadiusUm: into.value,
    offsetUm: set.offset,
    tiltDeg: set.tilt,
    index: index.value,
    wavelengthNm: set.nm,
  }),
);
const gapDb = computed(() => (set.gap > 0 ? gapLossDb(set.gap, from.value, index.value, set.nm) : 0));
const faces = computed(() => (set.gap > 0 && !set.gel ? gapReflectionDb(GLASS_INDEX, 1, true) : 0));
const causes = computed(() => [
  { name: 'Cores side by side', formula: 'exp(−2 d² / (w₁² + w₂²))', db: joint.value.offsetDb },
  { name: 'Axes at an angle', formula: 'exp(−2 (π n θ w₁ w₂ / λ)² / (w₁² + w₂²))', db: joint.value.tiltDb },
  { name: 'Fields of different size', formula: '(2 w₁ w₂ / (w₁² + w₂²))²', db: joint.value.mismatchDb },
  { name: 'A gap', formula: '1 / (1 + (z / 2 z_R)²)', db: gapDb.value },
  { name: 'Two reflecting faces', formula: '(1 − R) / (1 + R)', db: faces.value },
]);
const total = computed(() => causes.value.reduce((sum, c) => sum + c.db, 0));
const scale = computed(() => Math.max(0.5, total.value));
const back = computed(() => (set.gap > 0 && !set.gel ? returnLossDb(faceReflectance(GLASS_INDEX, 1)) : null));
const curve = computed(() => {
  const at = (d: number): number =>
    jointLoss({
      fromRadiusUm: from.value,
      intoRadiusUm: into.value,
      offsetUm: d,
      tiltDeg: 0,
      index: GLASS_INDEX,
      wavelengthNm: set.nm,
    }).offsetDb;
  return Array.from(
    { length: 61 },
    (_, i) => `${i === 0 ? 'M' : 'L'}${40 + i * 8} ${170 - Math.min(3.2, at(i * 0.05)) * 46}`,
  ).join('');
});
const spot = computed(() => ({
  x: 40 + (set.offset / 0.05) * 8,
  y: 170 - Math.min(3.2, joint.value.offsetDb) * 46,
}));
const cores = multimodeMismatch({ coreUm: 62.5, aperture: 0.275 }, { coreUm: 50, aperture: 0.2 });
const SLIDERS = [
  { key: 'offset', label: 'Offset of the cores', unit: 'µm', min: 0, max: 3, step: 0.05 },
  { key: 'tilt', label: 'Angle between the axes', unit: '°', min: 0, max: 3, step: 0.05 },
  { key: 'other', label: 'Other field wider by', unit: 'µm', min: -1, max: 1.5, step: 0.05 },
  { key: 'gap', label: 'Gap between the faces', unit: 'µm', min: 0, max: 200, step: 1 },
] as const;
</script>

<template>
  <section class="two">
    <div class="hands">
      <div class="row" role="group" aria-label="Wavelength">
        <el-button
          v-for="nm in [1310, 1550] as const"
          :key="nm"
          size="large"
          :aria-pressed="set.nm === nm"
          @click="set.nm = nm"
        >
          {{ nm }} nm
        </el-button>
        <el-button size="large" :aria-pressed="set.gel" @click="set.gel = !set.gel">
          Gel in the gap
        </el-button>
      </div>
      <div v-for="s in SLIDERS" :key="s.key" class="slide">
        <span
          >{{ s.label }} <b class="figure">{{ set[s.key].toFixed(s.step < 1 ? 2 : 0) }}</b>
          <span class="unit">{{ s.unit }}</span></span
        >
        <el-slider
          v-model="set[s.key]"
          size="large"
          :aria-label="s.label"
          :min="s.min"
          :max="s.max"
          :step="s.step"
          :show-tooltip="false"
        />
      </div>
      <svg viewBox="0 0 540 130" class="faces" aria-hidden="true">
        <g :transform="`translate(${250 - Math.min(60, set.gap * 0.5)} 65)`">
          <rect x="-250" y="-36" width="250" height="72" class="clad" />
          <rect x="-250" y="-6" width="250" height="12" class="core" />
        </g>
        <g
          :transform="`translate(${256 + Math.min(60, set.gap * 0.5)} ${65 + set.offset * 8}) rotate(${-set.tilt * 5})`"
        >
          <rect x="0" y="-36" width="260" height="72" class="clad" />
          <rect x="0" :y="-6 - set.other * 3" width="260" :height="12 + set.other * 6" class="core" />
        </g>
      </svg>
      <p class="small soft">Drawn larger than life: offset and angle would not be seen.</p>
    </div>
    <div>
      <p class="total" aria-live="polite">
        <span class="figure">{{ total.toFixed(2) }}</span> <span class="unit">dB</span> in all
      </p>
      <dl class="causes">
        <div v-for="c in causes" :key="c.name">
          <dt>{{ c.name }}<span class="small soft">{{ c.formula }}</span></dt>
          <dd class="bar"><i :style="{ width: `${(c.db / scale) * 100}%` }" /></dd>
          <dd><b>{{ c.db.toFixed(3) }}</b> <span class="unit">dB</span></dd>
        </div>
      </dl>
      <p v-if="back !== null" class="small">
        Each open face sends {{ (faceReflectance(GLASS_INDEX, 1) * 100).toFixed(1) }} % back: return loss
        {{ back.toFixed(1) }} dB.
      </p>
      <p class="small soft">
        Gaussian fields of radius {{ from.toFixed(1) }} and {{ into.toFixed(1) }} µm, index {{ index }}.
        Marcuse, Bell System Technical Journal 56 (1977) 703; reflections by Fresnel.
      </p>
      <svg viewBox="0 0 540 210" class="chart" role="img" aria-label="Loss by offset alone">
        <g v-for="db in [0, 1, 2, 3]" :key="db">
          <line x1="40" x2="520" :y1="170 - db * 46" :y2="170 - db * 46" class="grid" />
          <text x="32" :y="174 - db * 46" text-anchor="end">{{ db }}</text>
        </g>
        <text v-for="um in [0, 1, 2, 3]" :key="um" :x="40 + um * 160" y="190" text-anchor="middle">
          {{ um }}
        </text>
        <text x="280" y="206" text-anchor="middle">offset, µm; loss by it alone, dB</text>
        <path :d="curve" class="line" />
        <circle :cx="spot.x" :cy="spot.y" r="7" class="spot" />
      </svg>
    </div>
  </section>
  <section class="section">
    <h2>And in multimode</h2>
    <p>
      A 62.5 µm core into a 50 µm one loses {{ cores.coreRatioDb.toFixed(1) }} dB by the cores and
      {{ cores.apertureRatioDb.toFixed(1) }} dB by the apertures when every mode is filled; the other way
      nothing, which is how the fault is found: one direction high, the other right.
    </p>
  </section>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.1fr);
  gap: 32px;
}
.hands {
  display: grid;
  gap: 14px;
  align-content: start;
}
.slide {
  display: grid;
  gap: 2px;
}
input[type='range'] {
  width: 100%;
  min-height: var(--tap);
  accent-color: var(--accent);
}
.faces,
.chart {
  width: 100%;
}
.clad {
  fill: var(--sunk);
  stroke: var(--hair-strong);
}
.core {
  fill: var(--glass);
}
.total .figure {
  font-size: 2.5rem;
}
.causes > div {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 34% 100px;
  gap: 12px;
  align-items: center;
  min-height: var(--tap);
  padding: 4px 0;
  border-bottom: 1px solid var(--hair);
}
.causes dt span {
  display: block;
}
.causes dd {
  margin: 0;
  text-align: right;
}
.bar i {
  display: block;
  height: 16px;
  background: var(--accent);
}
.grid {
  stroke: var(--hair);
}
.line {
  fill: none;
  stroke: var(--ink);
  stroke-width: 3;
}
.spot {
  fill: var(--accent);
}
text {
  font-size: 14px;
  fill: var(--ink-soft);
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
