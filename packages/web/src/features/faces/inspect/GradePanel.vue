<script setup lang="ts">
import {
  type AddedFeature,
  FACE_CRITERIA,
  type FaceCriteria,
  reviewFace,
  type FaceFault,
} from '@clear-mark/core';
import type { FaceDocument, FaceRow } from '@clear-mark/contract';
import { FACE_REFUSAL_WORDS, sourceWords } from '@clear-mark/words';
import { useEventListener } from '@vueuse/core';
import { computed, onMounted, ref, shallowRef, watch } from 'vue';
import { useRoute } from 'vue-router';
import { request, fetchPicture, pictureUrl, ROUTES, wordsOf } from '../../../api/client.ts';
import { useClassroom } from '../../../classroom/use-classroom.ts';
import CameraPanel from './CameraPanel.vue';
import ChangeSince from './ChangeSince.vue';
import type { FaceView as Shows, StandInPicture } from '../engine/face-orders.ts';
import {
  addedBetween,
  isGraded,
  isRow,
  type ShownFeature,
  shownFeatures,
  toggleKind,
  toggleRejected,
} from './face-view.model.ts';
import FaceVerdicts from './FaceVerdicts.vue';
import FaceTools from './FaceTools.vue';
import FaceView, { type Tool } from './FaceView.vue';
import FeatureTable from './FeatureTable.vue';
import KeepBar from './KeepBar.vue';
import KeptFaces from './KeptFaces.vue';
import RowFibers from './RowFibers.vue';
import RowVerdicts from './RowVerdicts.vue';
import ScopePanel from './ScopePanel.vue';
import { type FaceSource, useFace } from './use-face.ts';
import { useKeptFace } from './use-kept-face.ts';
import ChoiceField from '../../../shared/ChoiceField.vue';

/** Is this end face good: a picture measured, graded by zones, reviewed, kept. */
const props = defineProps<{ classId: string; tables: readonly FaceCriteria[] }>();
const classroom = useClassroom();
const route = useRoute();
const { face, found, flat, flatUrl, failure, step, take, measure, cancel } = useFace();
const keeping = useKeptFace(() => props.classId);
const { review, traineeSaid, kept, changed, busy } = keeping;

const tableId = ref('sm-pc');
const shows = ref<Shows>('single');
const source = ref<'none' | 'camera' | 'scope'>('none');
const tool = ref<Tool>('look');
const flattened = ref(false);
const loupe = ref(false);
const chosen = ref<number | null>(null);
const over = ref(false);
const widthUm = ref(1);
const attemptId = ref(typeof route.query['attempt'] === 'string' ? route.query['attempt'] : '');
const faults = shallowRef<readonly FaceFault[]>([]);
const before = shallowRef<FaceDocument | null>(null);
/** The picture that comes next is of the face that is kept now, cleaned. */
const pairs = ref(false);
const rows = shallowRef<readonly FaceRow[]>([]);
const listFailure = ref<string | null>(null);

const table = computed(
  () => kept.value?.table ?? props.tables.find((t) => t.id === tableId.value) ?? FACE_CRITERIA[0]!,
);
const graded = computed(() => (isGraded(found.value) ? found.value : null));
const row = computed(() => (isRow(found.value) ? found.value : null));
const refused = computed(() => (found.value && !found.value.ok ? found.value.reason : null));
const reviewed = computed(() =>
  graded.value ? reviewFace(graded.value.features, review.value, table.value) : null,
);
const features = computed(() =>
  graded.value && reviewed.value ? shownFeatures(graded.value, review.value, reviewed.value) : [],
);
const beforeFace = computed(() => {
  const engine = before.value?.engine ?? null;
  return isGraded(engine) ? engine : null;
});

function begin(picture: Blob, name: string, from: FaceSource, known: readonly FaceFault[] = []): void {
  keeping.begin();
  [chosen.value, tool.value, pairs.value] = [null, 'look', false];
  faults.value = known;
  take(picture, name, from, shows.value, table.value);
}
function fromFiles(files: FileList | null | undefined, from: FaceSource): void {
  const file = files?.[0];
  if (!file) return;
  before.value = pairs.value ? kept.value : null;
  begin(file, file.name || 'Pasted picture', from);
}
function fromScope({ png, looks, width, height }: StandInPicture, name: string, again: boolean): void {
  before.value = again ? (kept.value ?? before.value) : null;
  shows.value = width > 2 * height ? 'row' : 'single';
  begin(png, name, 'stand_in', looks as readonly FaceFault[]);
}
function fromCamera(picture: Blob): void {
  before.value = pairs.value ? kept.value : null;
  begin(picture, `Camera, ${new Date().toLocaleTimeString()}`, 'camera');
}
watch([tableId, shows], () => {
  if (!kept.value) measure(shows.value, table.value);
});
const onPaste = (event: ClipboardEvent): void => fromFiles(event.clipboardData?.files, 'clipboard');
onMounted(() => {
  void classroom.open(props.classId);
  void list();
  const asked = route.query['face'];
  if (typeof asked === 'string') void open(asked);
});
useEventListener(window, 'paste', onPaste);

async function list(): Promise<void> {
  try {
    rows.value = await request(ROUTES.faces, { params: { id: props.classId } });
    listFailure.value = null;
  } catch (error) {
    listFailure.value = wordsOf(error);
  }
}
async function open(id: string): Promise<void> {
  try {
    const document = await request(ROUTES.face, { params: { id: props.classId, faceId: id } });
    const picture = await fetchPicture(props.classId, id);
    before.value = document.beforeId
      ? await request(ROUTES.face, { params: { id: props.classId, faceId: document.beforeId } })
      : null;
    keeping.open(document);
    chosen.value = null;
    shows.value = document.view;
    attemptId.value = document.attemptId ?? '';
    take(picture, document.label, document.source, document.view, document.table);
  } catch (error) {
    listFailure.value = wordsOf(error);
  }
}
async function keep(): Promise<void> {
  if (!face.value || !found.value) return;
  const attempt = attemptId.value === '' ? null : attemptId.value;
  const done = await keeping.keep({
    face: face.value,
    found: found.value,
    view: shows.value,
    table: table.value,
    faults: faults.value,
    attemptId: attempt,
    traineeId: attempt ? (classroom.attempts.get(attempt)?.traineeId ?? null) : null,
    beforeId: before.value?.id ?? null,
  });
  if (done) await list();
}
function add(from: readonly [number, number], to: readonly [number, number]): void {
  const added: AddedFeature | null =
    tool.value === 'defect' || tool.value === 'scratch'
      ? addedBetween(tool.value, from, to, widthUm.value)
      : null;
  tool.value = 'look';
  if (added) keeping.revise({ ...review.value, added: [...review.value.added, added] });
}
const reject = (feature: ShownFeature): void => keeping.revise(toggleRejected(review.value, feature));
function changeKind(feature: ShownFeature): void {
  if (graded.value) keeping.revise(toggleKind(review.value, feature, graded.value));
}
</script>

<template>
  <div
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent="((over = false), fromFiles($event.dataTransfer?.files, 'file'))"
  >
    <div class="row tools">
      <label class="act" :class="{ next: source === 'none' && !face }">
        Open a picture
        <input
          class="sr"
          type="file"
          accept="image/png,image/jpeg"
          @change="(e) => fromFiles((e.target as HTMLInputElement).files, 'file')"
        />
      </label>
      <el-button size="large" :aria-pressed="source === 'camera'" @click="source = 'camera'">
        Camera
      </el-button>
      <el-button size="large" :aria-pressed="source === 'scope'" @click="source = 'scope'">
        Simulated scope
      </el-button>
      <span class="fill" />
      <ChoiceField
        v-model="shows"
        bare
        label="Ferrule"
        :disabled="kept !== null"
        :options="[
          { value: 'single', label: 'One fiber' },
          { value: 'row', label: 'Row of fibers' },
        ]"
      />
      <ChoiceField
        v-model="tableId"
        bare
        label="Criteria"
        :disabled="kept !== null"
        :options="tables.map((c) => ({ value: c.id, label: c.title }))"
      />
    </div>
    <CameraPanel v-if="source === 'camera'" @taken="fromCamera" @close="source = 'none'" />
    <ScopePanel v-if="source === 'scope'" @taken="fromScope" @close="source = 'none'" />
    <p v-if="failure" class="notice bad" role="alert">{{ failure }} Nothing was changed.</p>
    <div v-if="!face" class="drop" :class="{ over }">
      <p>Drop, paste or open a picture of an end face, PNG or JPEG; or take one from a video microscope.</p>
      <p class="soft">The far end must be dark before a scope goes on. The cladding gives the scale.</p>
    </div>
    <div v-else class="two" :class="{ over }">
      <figure>
        <FaceView
          :name="face.name"
          :url="face.url"
          :width="face.width"
          :height="face.height"
          :face="graded"
          :table="table"
          :features="features"
          :chosen="chosen"
          :flat="flattened && flat && flatUrl ? { picture: flat, url: flatUrl } : null"
          :tool="tool"
          :loupe="loupe"
          @choose="chosen = $event"
          @between="add"
        />
        <FaceTools
          v-if="graded"
          v-model:tool="tool"
          v-model:flattened="flattened"
          v-model:loupe="loupe"
          v-model:width="widthUm"
          :name="face.name"
          :face="graded"
        />
        <figcaption v-else class="small soft">{{ face.name }}</figcaption>
        <RowFibers v-if="row" :row="row" :url="face.url" :width="face.width" :height="face.height" />
        <ChangeSince
          v-if="graded && before && beforeFace"
          :before="beforeFace"
          :after="graded"
          :url="pictureUrl(classId, before.id)"
        />
      </figure>
      <div aria-live="polite">
        <p v-if="step" class="row" role="status">
          <span>{{ step }}</span> <el-button size="large" @click="cancel">Cancel</el-button>
        </p>
        <p v-else-if="refused" class="notice" data-test="refused">
          <b>Not graded.</b> {{ FACE_REFUSAL_WORDS[refused] }}
        </p>
        <RowVerdicts v-else-if="row" :row="row" />
        <template v-else-if="graded && reviewed">
          <FaceVerdicts
            :face="graded"
            :table="table"
            :reviewed="reviewed"
            :trainee-said="traineeSaid"
            :override="review.verdict"
            @trainee="keeping.say"
            @override="keeping.revise({ ...review, verdict: $event })"
          />
          <FeatureTable
            :features="features"
            :chosen="chosen"
            @choose="chosen = $event"
            @reject="reject"
            @kind="changeKind"
          />
        </template>
        <template v-if="found && !step">
          <KeepBar
            :kept="kept !== null"
            :changed="changed"
            :busy="busy"
            :attempt-id="attemptId"
            :kept-with="kept?.pieceLabel ? `${kept.traineeName}, ${kept.pieceLabel}` : null"
            @attempt="attemptId = $event"
            @keep="keep"
          />
          <p v-if="keeping.failure.value" class="notice bad" role="alert">{{ keeping.failure.value }}</p>
          <el-button
            v-if="kept && graded"
            size="large"
            class="after"
            :aria-pressed="pairs"
            @click="pairs = !pairs"
          >
            The next picture is this face after cleaning
          </el-button>
          <p class="small soft">
            {{ sourceWords(table.source) }}. The instructor decides; the grade stands beside.
          </p>
        </template>
      </div>
    </div>
    <p v-if="listFailure" class="notice bad">{{ listFailure }}</p>
    <KeptFaces v-else :class-id="classId" :rows="rows" :open-id="kept?.id ?? null" @open="open" />
  </div>
</template>

<style scoped>
.tools {
  flex-wrap: wrap;
  margin-bottom: 8px;
}
.tools :deep(.choice) {
  max-width: 260px;
}
.fill {
  flex: 1;
}
.drop {
  margin: 16px 0;
  border: 2px dashed var(--hair-strong);
  border-radius: var(--round);
  padding: 70px 24px;
  text-align: center;
}
.over {
  outline: 3px solid var(--accent);
}
.two {
  margin-top: 12px;
  display: grid;
  grid-template-columns: minmax(0, 1.65fr) minmax(320px, 1fr);
  gap: 24px;
}
figure {
  margin: 0;
  min-width: 0;
}
.after {
  margin: 8px 0;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
