<script setup lang="ts">
import { FACE_CRITERIA, type FaceCriteria, type FaceFault } from '@clear-mark/core';
import type { FaceDocument } from '@clear-mark/contract';
import { FACE_REFUSAL_WORDS, sourceWords } from '@clear-mark/words';
import { useEventListener } from '@vueuse/core';
import { computed, onMounted, ref, shallowRef, watch } from 'vue';
import { useRoute } from 'vue-router';
import { fetchPicture, pictureUrl, request, ROUTES, wordsOf } from '../../../api/client.ts';
import { useReply } from '../../../api/queries.ts';
import { useClassroom } from '../../../classroom/use-classroom.ts';
import ChangeSince from './ChangeSince.vue';
import type { FaceView as Shows, StandInPicture } from '../engine/face-orders.ts';
import { isGraded, isRow } from './face-view.model.ts';
import FaceVerdicts from './FaceVerdicts.vue';
import FaceTools from './FaceTools.vue';
import FaceView from './FaceView.vue';
import FeatureTable from './FeatureTable.vue';
import KeepBar from './KeepBar.vue';
import KeptFaces from './KeptFaces.vue';
import { takeHanded } from './handed-picture.ts';
import PictureSources from './PictureSources.vue';
import RowFibers from './RowFibers.vue';
import RowVerdicts from './RowVerdicts.vue';
import SlideRuler from './SlideRuler.vue';
import { useSlideScale } from './use-slide-scale.ts';
import { type FaceSource, useFace } from './use-face.ts';
import { useFaceReview } from './use-face-review.ts';
import { useKeptFace } from './use-kept-face.ts';
import { timeOfDay } from '../../../shared/time-words.ts';

/** Is this end face good: a picture measured, graded by zones, reviewed, kept. */
const props = defineProps<{ classId: string; tables: readonly FaceCriteria[] }>();
const classroom = useClassroom();
const route = useRoute();
const { face, found, flat, flatUrl, failure, step, take, measure, cancel } = useFace();
const { scale: slide } = useSlideScale();
const keeping = useKeptFace(() => props.classId);
const { review, traineeSaid, kept, changed, busy } = keeping;

const tableId = ref('sm-pc');
const shows = ref<Shows>('single');
const flattened = ref(false);
const loupe = ref(false);
const chosen = ref<number | null>(null);
const over = ref(false);
const several = ref(false);
const attemptId = ref(typeof route.query['attempt'] === 'string' ? route.query['attempt'] : '');
const faults = shallowRef<readonly FaceFault[]>([]);
const before = shallowRef<FaceDocument | null>(null);
/** The picture that comes next is of the face that is kept now, cleaned. */
const pairs = ref(false);
const view = ref<InstanceType<typeof FaceView> | null>(null);
const {
  found: rows,
  failure: unread,
  again,
} = useReply(ROUTES.faces, () => ({ params: { id: props.classId } }));
const unopened = ref<string | null>(null);
const listFailure = computed(() => unopened.value ?? unread.value);

const table = computed(
  () => kept.value?.table ?? props.tables.find((t) => t.id === tableId.value) ?? FACE_CRITERIA[0]!,
);
const graded = computed(() => (isGraded(found.value) ? found.value : null));
const row = computed(() => (isRow(found.value) ? found.value : null));
const refused = computed(() => (found.value && !found.value.ok ? found.value.reason : null));
const { reviewed, features, tool, widthUm, add, reject, changeKind } = useFaceReview(keeping, graded, table);
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
function fromFile(file: File | undefined, from: FaceSource): void {
  if (!file) return;
  before.value = pairs.value ? kept.value : null;
  begin(file, file.name || 'Pasted picture', from);
}
function dropped(files: FileList | undefined): void {
  several.value = (files?.length ?? 0) > 1;
  if (!several.value) fromFile(files?.[0], 'file');
}
function fromScope({ png, looks, width, height }: StandInPicture, name: string, again: boolean): void {
  before.value = again ? (kept.value ?? before.value) : null;
  shows.value = width > 2 * height ? 'row' : 'single';
  begin(png, name, 'stand_in', looks as readonly FaceFault[]);
}
function fromCamera(picture: Blob): void {
  before.value = pairs.value ? kept.value : null;
  begin(picture, `Camera, ${timeOfDay(new Date().toISOString())}`, 'camera');
}
watch([tableId, shows], () => {
  if (!kept.value) measure(shows.value, table.value);
});
const onPaste = (event: ClipboardEvent): void => fromFile(event.clipboardData?.files[0], 'clipboard');
onMounted(() => {
  void classroom.open(props.classId);
  const handed = takeHanded();
  if (handed) {
    [tableId.value, shows.value] = [handed.tableId, handed.shows];
    fromFile(handed.file, 'file');
  }
  const asked = route.query['face'];
  if (typeof asked === 'string') void open(asked);
});
useEventListener(window, 'paste', onPaste);

async function open(id: string): Promise<void> {
  unopened.value = null;
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
    unopened.value = wordsOf(error);
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
  if (done) await again();
}
</script>

<template>
  <div
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent="((over = false), dropped($event.dataTransfer?.files))"
  >
    <PictureSources
      v-model:shows="shows"
      v-model:table-id="tableId"
      :tables="tables"
      :kept="kept !== null"
      :empty="!face"
      @file="fromFile($event, 'file')"
      @camera="fromCamera"
      @scope="fromScope"
    />
    <p v-if="failure" class="notice bad" role="alert">{{ failure }} Nothing was changed.</p>
    <p v-if="several" class="notice" role="alert">
      One picture at a time is inspected here. A folder of them is graded under Many pictures.
    </p>
    <div v-if="!face" class="drop" :class="{ over }">
      <p>Drop, paste or open a picture of an end face, PNG or JPEG; or take one from a video microscope.</p>
      <p class="soft">The far end must be dark before a scope goes on. The cladding gives the scale.</p>
    </div>
    <div v-else class="two" :class="{ over }">
      <figure>
        <FaceView
          ref="view"
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
          :slide-um-per-px="slide?.umPerPx ?? null"
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
          :zoomed="(view?.zoomed.k ?? 1) > 1"
          @closer="view?.closer()"
          @further="view?.further()"
          @whole="view?.reset()"
        />
        <SlideRuler v-else v-model:tool="tool" :name="face.name" />
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
    <KeptFaces v-else :class-id="classId" :rows="rows ?? []" :open-id="kept?.id ?? null" @open="open" />
  </div>
</template>

<style scoped>
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
