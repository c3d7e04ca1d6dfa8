<script setup lang="ts">
import { onMounted, ref, shallowRef } from 'vue';
import { request, Refusal, ROUTES, wordsOf } from '../../../api/client.ts';
import ChoiceField from '../../../shared/ChoiceField.vue';

/** The hands of the demo's simulated bench: what is done to its one piece, all its instruments see. */
interface Piece {
  readonly connected: 'reference' | 'link' | 'nothing';
  readonly left: { readonly angleDeg: number; readonly face: string };
  readonly right: { readonly angleDeg: number; readonly face: string };
  readonly joint: object | null;
  readonly dirt: { readonly near: number; readonly far: number };
  readonly bendMm: number;
}
interface Otdr {
  readonly end: 'near' | 'far';
  readonly launchM: number;
  readonly receiveM: number;
}
interface Bench {
  readonly piece: Piece;
  readonly otdr: Otdr;
}
const piece = shallowRef<Piece | null>(null);
const otdr = shallowRef<Otdr>({ end: 'near', launchM: 500, receiveM: 300 });
const failure = ref<string | null>(null);
const there = ref(false);

function show(bench: Bench): void {
  [piece.value, otdr.value] = [bench.piece, bench.otdr];
}
const setOtdr = (what: Partial<Otdr>): Promise<void> => act({ act: 'otdr', ...otdr.value, ...what });

async function load(): Promise<void> {
  try {
    show((await request(ROUTES.standInPiece, {})) as Bench);
    there.value = true;
  } catch (error) {
    // Real use has no simulated bench.
    if (!(error instanceof Refusal)) failure.value = wordsOf(error);
  }
}
async function act(order: Record<string, unknown>): Promise<void> {
  failure.value = null;
  try {
    show((await request(ROUTES.standInAct, { body: order })) as Bench);
  } catch (error) {
    failure.value = wordsOf(error);
  }
}
onMounted(load);
const FAILURES = [
  'none',
  'silent',
  'slow',
  'garbage',
  'wrong_unit',
  'wrong_wavelength',
  'not_a_number',
  'disconnect',
  'endless_line',
];
const how = ref('none');
</script>

<template>
  <section v-if="there && piece" class="section" aria-label="Simulated bench">
    <h2>The simulated bench</h2>
    <p class="soft">
      In the demo the instruments stand in front of one simulated piece. A bad cleave gives a bad splice, a
      dirty face a high loss, a touched launch cord a reference that is wrong.
    </p>
    <dl>
      <dt>Cords</dt>
      <dd class="row">
        <el-button
          v-for="to in ['reference', 'link', 'nothing'] as const"
          :key="to"
          size="large"
          :aria-pressed="piece.connected === to"
          @click="act({ act: 'connect', to })"
        >
          {{
            to === 'reference' ? 'Launch cord into the meter' : to === 'link' ? 'Link in between' : 'Nothing'
          }}
        </el-button>
        <el-button size="large" @click="act({ act: 'disturb', db: -0.4 })"> Touch the launch cord </el-button>
      </dd>
      <dt>Faces</dt>
      <dd class="row">
        <template v-for="end in ['near', 'far'] as const" :key="end">
          <el-button size="large" @click="act({ act: 'touch', end })"> Touch the {{ end }} face </el-button>
          <el-button size="large" :disabled="piece.dirt[end] === 0" @click="act({ act: 'clean', end })">
            Clean it
          </el-button>
        </template>
      </dd>
      <dt>Splice</dt>
      <dd class="row">
        <template v-for="side in ['left', 'right'] as const" :key="side">
          <el-button size="large" @click="act({ act: 'cleave', side, care: 0.95 })">
            Cleave {{ side }} with care
          </el-button>
          <el-button size="large" @click="act({ act: 'cleave', side, care: 0.1 })">without</el-button>
        </template>
        <el-button size="large" @click="act({ act: 'fuse' })">Fuse</el-button>
        <span class="small soft"
          >left {{ piece.left.angleDeg.toFixed(1) }}° {{ piece.left.face }}, right
          {{ piece.right.angleDeg.toFixed(1) }}° {{ piece.right.face }},
          {{ piece.joint ? 'fused' : 'not fused' }}</span
        >
      </dd>
      <dt>Link</dt>
      <dd class="row">
        <el-button
          size="large"
          :aria-pressed="piece.bendMm < 15"
          @click="act({ act: 'bend', radiusMm: piece.bendMm < 15 ? 60 : 12 })"
        >
          Bend it tightly
        </el-button>
        <el-button size="large" @click="act({ act: 'ports', far: [2, 1, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12] })">
          Cross ports 1 and 2
        </el-button>
        <el-button size="large" @click="act({ act: 'ports', far: [12, 11, 10, 9, 8, 7, 6, 5, 4, 3, 2, 1] })">
          Turn a cassette
        </el-button>
        <el-button size="large" @click="act({ act: 'ports', far: [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12] })">
          Straight
        </el-button>
      </dd>
      <dt>OTDR</dt>
      <dd class="row">
        <el-button
          v-for="end in ['near', 'far'] as const"
          :key="end"
          size="large"
          :aria-pressed="otdr.end === end"
          @click="setOtdr({ end })"
        >
          At the {{ end }} end
        </el-button>
        <el-button
          v-for="m in [100, 500]"
          :key="`l${m}`"
          size="large"
          :aria-pressed="otdr.launchM === m"
          @click="setOtdr({ launchM: m })"
        >
          Launch cord of {{ m }} m
        </el-button>
        <el-button
          v-for="m in [300, 0]"
          :key="`r${m}`"
          size="large"
          :aria-pressed="otdr.receiveM === m"
          @click="setOtdr({ receiveM: m })"
        >
          {{ m === 0 ? 'No receive cord' : `Receive cord of ${m} m` }}
        </el-button>
      </dd>
      <dt>Meter fails</dt>
      <dd class="row">
        <ChoiceField
          v-model="how"
          bare
          label="How the meter fails"
          :options="
            FAILURES.map((f) => ({ value: f, label: f === 'none' ? 'it works' : f.replaceAll('_', ' ') }))
          "
          @change="act({ act: 'fail', instrument: 'meter', how })"
        />
      </dd>
    </dl>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
  </section>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 110px 1fr;
  gap: 10px 14px;
  align-items: baseline;
}
dt {
  color: var(--ink-soft);
}
dd {
  margin: 0;
}
</style>
