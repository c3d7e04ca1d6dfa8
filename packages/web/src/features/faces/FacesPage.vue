<script setup lang="ts">
import { FACE_CRITERIA, faceCriteria } from '@clear-mark/core';
import { breachWords, FACE_REFUSAL_WORDS, sourceWords } from '@clear-mark/words';
import { computed, onMounted, onUnmounted, ref, watch } from 'vue';
import VerdictRing from '../../shared/VerdictRing.vue';
import { useFace } from './use-face.ts';

/** Is this end face good: a picture measured, graded by zones, and every feature shown where it lies. */
defineProps<{ classId: string }>();
const { face, found, failure, busy, take, measure, cancel } = useFace();
const criteriaId = ref('sm-pc');
const chosen = ref<number | null>(null);
const over = ref(false);
const table = computed(() => faceCriteria(criteriaId.value)!);
const ok = computed(() => (found.value?.ok ? found.value : null));
watch(criteriaId, (id) => measure(id));
watch(found, () => (chosen.value = null));

function fromFiles(files: FileList | null | undefined): void {
  const file = files?.[0];
  if (file) void take(file, file.name, criteriaId.value);
}
function onPaste(event: ClipboardEvent): void {
  fromFiles(event.clipboardData?.files);
}
onMounted(() => window.addEventListener('paste', onPaste));
onUnmounted(() => window.removeEventListener('paste', onPaste));
const px = (um: number): number => (ok.value ? um / ok.value.umPerPx : 0);
const stroke = computed(() => (face.value ? Math.max(1, face.value.width / 640) : 1));
</script>

<template>
  <div
    class="page"
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent="((over = false), fromFiles($event.dataTransfer?.files))"
  >
    <div class="row spread">
      <h1>Faces</h1>
      <div class="row">
        <label class="row">
          <span class="soft">Criteria</span>
          <select v-model="criteriaId" class="act" aria-label="Criteria">
            <option v-for="c in FACE_CRITERIA" :key="c.id" :value="c.id">{{ c.title }}</option>
          </select>
        </label>
        <label class="act next">
          Open a picture
          <input
            class="sr"
            type="file"
            accept="image/png,image/jpeg"
            @change="(e) => fromFiles((e.target as HTMLInputElement).files)"
          />
        </label>
      </div>
    </div>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }} Nothing was changed.</p>
    <div v-if="!face" class="drop" :class="{ over }">
      <p>Drop, paste or open a picture of a single-fiber end face, PNG or JPEG.</p>
      <p class="soft">The cladding gives the scale; the far end must be dark before a scope goes on.</p>
    </div>
    <div v-else class="two">
      <figure>
        <svg :viewBox="`0 0 ${face.width} ${face.height}`" role="img" :aria-label="`Picture ${face.name}`">
          <image :href="face.url" :width="face.width" :height="face.height" />
          <g v-if="ok" fill="none" :stroke-width="stroke">
            <circle
              v-for="z in table.zones"
              :key="z.zone"
              class="zone"
              :cx="ok.centrePx[0]"
              :cy="ok.centrePx[1]"
              :r="px(z.toUm / 2)"
            />
            <template v-for="(f, i) in ok.features" :key="i">
              <circle
                v-if="f.kind === 'defect'"
                class="found"
                :class="{ chosen: chosen === i }"
                :cx="ok.centrePx[0] + px(f.xUm)"
                :cy="ok.centrePx[1] + px(f.yUm)"
                :r="px(f.sizeUm / 2) + 5 * stroke"
                @click="chosen = i"
              />
              <rect
                v-else
                class="found"
                :class="{ chosen: chosen === i }"
                :x="ok.centrePx[0] + px(f.xUm) - 9 * stroke"
                :y="ok.centrePx[1] + px(f.yUm) - 9 * stroke"
                :width="18 * stroke"
                :height="18 * stroke"
                :transform="`rotate(45 ${ok.centrePx[0] + px(f.xUm)} ${ok.centrePx[1] + px(f.yUm)})`"
                @click="chosen = i"
              />
            </template>
          </g>
        </svg>
        <figcaption class="small soft">
          {{ face.name }}<template v-if="ok">, {{ ok.umPerPx.toFixed(3) }} µm a pixel</template>. Rings: zones
          A to D; round marks: defects; standing squares: scratches.
        </figcaption>
      </figure>
      <div aria-live="polite">
        <p v-if="busy" class="row">
          <span>Measuring</span> <button class="act" type="button" @click="cancel">Cancel</button>
        </p>
        <p v-else-if="found && !found.ok" class="notice" data-test="refused">
          <b>Not graded.</b> {{ FACE_REFUSAL_WORDS[found.reason] }}
        </p>
        <template v-else-if="ok">
          <p class="row whole" data-test="face-verdict">
            <VerdictRing :verdict="ok.grade.verdict" :size="56" word />
          </p>
          <table class="plain">
            <tbody>
              <tr v-for="(z, i) in ok.grade.zones" :key="z.zone">
                <td>
                  <b>{{ z.zone }}</b>
                </td>
                <td v-if="z.verdict === 'fail' || table.zones[i]!.fromUm < ok.lookedAtUm">
                  <VerdictRing :verdict="z.verdict" :size="22" word />
                </td>
                <td v-else class="soft">not looked at</td>
                <td>
                  {{
                    z.breaches.map((b) => breachWords(b, ok!.features)).join('; ') ||
                    (table.zones[i]!.toUm <= ok.lookedAtUm
                      ? `${z.features.length} features, all allowed`
                      : `looked at to ${ok.lookedAtUm.toFixed(0)} µm only`)
                  }}
                </td>
              </tr>
            </tbody>
          </table>
          <h2>What was found</h2>
          <p v-if="ok.features.length === 0" class="soft">Nothing that stands out of the glass.</p>
          <table v-else class="plain">
            <thead>
              <tr>
                <th>Kind</th>
                <th class="n">Size</th>
                <th class="n">from the centre</th>
              </tr>
            </thead>
            <tbody>
              <tr
                v-for="(f, i) in ok.features"
                :key="i"
                :class="{ chosen: chosen === i }"
                @click="chosen = i"
              >
                <td>
                  <button class="act quiet" type="button" @click.stop="chosen = i">{{ f.kind }}</button>
                </td>
                <td class="n">{{ f.sizeUm.toFixed(1) }} ± {{ f.uncertaintyUm.toFixed(1) }} µm</td>
                <td class="n">{{ Math.hypot(f.xUm, f.yUm).toFixed(0) }} µm</td>
              </tr>
            </tbody>
          </table>
          <p class="small soft">
            {{ sourceWords(table.source) }}. The instructor decides; this grade stands beside.
          </p>
        </template>
      </div>
    </div>
  </div>
</template>

<style scoped>
.drop {
  margin-top: 16px;
  border: 2px dashed var(--hair-strong);
  border-radius: var(--round);
  padding: 80px 24px;
  text-align: center;
}
.drop.over {
  border-color: var(--accent);
  background: var(--accent-wash);
}
.two {
  margin-top: 14px;
  display: grid;
  grid-template-columns: minmax(0, 1.7fr) minmax(280px, 1fr);
  gap: 24px;
}
figure {
  margin: 0;
}
svg {
  width: 100%;
  display: block;
  background: #000;
}
.zone {
  stroke: #fff;
  stroke-dasharray: 6 6;
  opacity: 0.8;
}
.found {
  stroke: #ffe14d;
  cursor: pointer;
  pointer-events: all;
}
.found.chosen {
  stroke-width: 5;
}
tr.chosen td {
  background: var(--accent-wash);
}
.whole :deep(span) {
  font-size: 1.5rem;
}
h2 {
  margin-top: 18px;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
