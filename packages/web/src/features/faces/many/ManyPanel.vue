<script setup lang="ts">
import { FACE_CRITERIA, type FaceCriteria } from '@clear-mark/core';
import { allowedWords, sourceWords, VERDICT_WORDS } from '@clear-mark/words';
import type { UploadFile } from 'element-plus';
import { computed, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { tableCsv } from '../../../charts/chart-file.ts';
import { download, fileName } from '../../../shared/save-file.ts';
import { useClassroom } from '../../../classroom/use-classroom.ts';
import { dayText } from '../../../shared/day-range.model.ts';
import VerdictRing from '../../../shared/VerdictRing.vue';
import type { FaceView as Shows } from '../engine/face-orders.ts';
import FerruleAndCriteria from '../inspect/FerruleAndCriteria.vue';
import { handPicture } from '../inspect/handed-picture.ts';
import { countsOf, linesOf, type PictureLine, type Shown, shownOf, tableOf } from './many.model.ts';
import PictureMarks from './PictureMarks.vue';
import { MOST_PICTURES, useMany } from './use-many.ts';

/** A folder of pictures, graded one after the other: a table, a file, a sheet of paper. */
const props = defineProps<{ classId: string; tables: readonly FaceCriteria[] }>();
const many = useMany();
const classroom = useClassroom();
const router = useRouter();
const tableId = ref(many.criteria?.id ?? 'sm-pc');
const shows = ref<Shows>(many.view);
const table = computed(() => props.tables.find((t) => t.id === tableId.value) ?? FACE_CRITERIA[0]!);
watch([table, shows], () => many.use(table.value, shows.value), { immediate: true });

const lines = computed(() => linesOf(many.pictures, table.value));
const counts = computed(() => countsOf(lines.value));
const shown = ref<Shown>('all');
const narrowed = computed(() => shownOf(lines.value, shown.value));
const share = computed(() => Math.round((100 * counts.value.done) / Math.max(1, counts.value.all)));
const WAYS = computed(() => [
  { value: 'all', label: `All ${counts.value.all}` },
  { value: 'fail', label: `Fail ${counts.value.fail}` },
  { value: 'near', label: `Near the limit ${counts.value.near}` },
  { value: 'refused', label: `Not graded ${counts.value.refused}` },
]);
const title = computed(() => `End faces, ${classroom.detail?.name ?? ''}`);

const opened = ({ raw }: UploadFile): void => void (raw && many.add([raw]));
const saveTable = (): void =>
  download(
    fileName(title.value, 'csv'),
    new Blob([tableCsv(tableOf(lines.value, table.value.title))], { type: 'text/csv;charset=utf-8' }),
  );
const print = (): void => window.print();
/** To the view where it is looked at, reviewed and kept. */
async function inspect({ picture }: PictureLine): Promise<void> {
  handPicture({ file: picture.file, tableId: tableId.value, shows: shows.value });
  await router.replace({ query: { ...router.currentRoute.value.query, view: 'grade', face: undefined } });
}
const percent = (chance: number | null): string => (chance === null ? '' : `${Math.round(100 * chance)} %`);
const verdictWords = ({ verdict }: PictureLine): string =>
  verdict === null ? 'Not graded' : VERDICT_WORDS[verdict];
</script>

<template>
  <div class="row tools">
    <el-upload
      :auto-upload="false"
      :show-file-list="false"
      multiple
      accept="image/png,image/jpeg"
      :on-change="opened"
    >
      <template #trigger>
        <el-button size="large" tag="span" :type="counts.all === 0 ? 'primary' : 'default'">
          Open pictures
        </el-button>
      </template>
    </el-upload>
    <template v-if="counts.all > 0">
      <el-button v-if="many.isBusy" size="large" @click="many.cancel()">Cancel</el-button>
      <template v-else>
        <el-button size="large" @click="saveTable">Save as CSV</el-button>
        <el-button size="large" @click="print">Print or save as PDF</el-button>
        <el-button size="large" text @click="many.clear()">Remove all</el-button>
      </template>
    </template>
    <FerruleAndCriteria v-model:shows="shows" v-model:table-id="tableId" :tables="tables" />
  </div>
  <el-upload
    v-if="counts.all === 0"
    class="drop"
    drag
    directory
    multiple
    :auto-upload="false"
    :show-file-list="false"
    :on-change="opened"
    data-test="folder"
  >
    <p>Drop a folder of pictures of end faces here, or tap to choose one: PNG or JPEG.</p>
    <p class="soft">
      Each is measured and graded on this device; nothing is sent. Names that say before and after are
      compared.
    </p>
  </el-upload>
  <template v-else>
    <div class="state" aria-live="polite">
      <el-progress v-if="many.isBusy" :percentage="share" :stroke-width="14" :show-text="false" />
      <p class="counts" data-test="counts">
        <span v-if="many.isBusy">{{ counts.done }} of {{ counts.all }} measured.</span>
        <b>{{ counts.pass }} pass</b>, <b>{{ counts.fail }} fail</b>, {{ counts.near }} near the limit,
        {{ counts.refused }} not graded.
      </p>
      <p v-if="many.leftOut > 0" class="notice">
        Left out: {{ many.leftOut === 1 ? 'one file' : `${many.leftOut} files` }}. Only PNG and JPEG are
        taken, and at most {{ MOST_PICTURES }} pictures.
      </p>
    </div>
    <el-segmented v-model="shown" size="large" :options="WAYS" aria-label="Which pictures" class="which" />
    <el-table :data="[...narrowed]" :row-key="(l: PictureLine) => l.picture.id" class="lines">
      <el-table-column label="Picture" width="160">
        <template #default="{ row: l }: { row: PictureLine }"><PictureMarks :line="l" /></template>
      </el-table-column>
      <el-table-column label="Name" min-width="150">
        <template #default="{ row: l }: { row: PictureLine }">
          <el-button size="large" text class="name" @click="inspect(l)">{{ l.picture.name }}</el-button>
        </template>
      </el-table-column>
      <el-table-column label="Verdict" width="130">
        <template #default="{ row: l }: { row: PictureLine }">
          <VerdictRing v-if="l.verdict" :verdict="l.verdict" :size="28" word class="verdict" />
          <span v-else-if="l.state !== 'waiting'" class="soft">Not graded</span>
          <span v-else class="soft">{{ l.picture.state === 'measuring' ? 'Measuring' : 'Waiting' }}</span>
        </template>
      </el-table-column>
      <el-table-column label="Chance of a pass" width="96" align="right">
        <template #default="{ row: l }: { row: PictureLine }">{{ percent(l.chance) }}</template>
      </el-table-column>
      <el-table-column label="Why" min-width="260">
        <template #default="{ row: l }: { row: PictureLine }">
          <span v-for="(words, i) in l.words" :key="i" class="why">{{ words }}</span>
          <span v-if="l.words.length === 0 && l.defects !== null" class="soft">{{
            allowedWords((l.scratches ?? 0) + l.defects)
          }}</span>
          <span v-if="l.fibers !== null" class="soft">{{ l.fibers }} fibers</span>
        </template>
      </el-table-column>
    </el-table>
    <p class="small soft below">
      {{ sourceWords(table.source) }}. The instructor decides; the grade stands beside.
    </p>
  </template>
  <section v-if="counts.all > 0" class="paper" data-test="paper">
    <h2>{{ title }}</h2>
    <p>
      {{ table.title }}. {{ counts.pass }} pass, {{ counts.fail }} fail, {{ counts.near }} near the limit,
      {{ counts.refused }} not graded. {{ dayText(classroom.today()) }}. {{ sourceWords(table.source) }}. The
      instructor decides.
    </p>
    <figure v-for="l in lines" :key="l.picture.id">
      <PictureMarks :line="l" />
      <figcaption>
        <b>{{ verdictWords(l) }}</b> {{ l.picture.name }}
        <span v-for="(words, i) in l.words" :key="i" class="why">{{ words }}</span>
      </figcaption>
    </figure>
  </section>
</template>

<style scoped>
.tools {
  flex-wrap: wrap;
  margin-bottom: 8px;
}
.drop {
  margin: 16px 0;
}
.drop :deep(.el-upload-dragger) {
  border: 2px dashed var(--hair-strong);
  border-radius: var(--round);
  padding: 64px 24px;
  color: var(--ink);
  font-size: 1rem;
}
.counts {
  font-size: 1.125rem;
  margin: 8px 0;
}
.counts span {
  margin-right: 0.5em;
}
.which {
  margin-bottom: 8px;
}
.name {
  white-space: normal;
  text-align: left;
  padding: 0;
  height: auto;
  min-height: var(--tap);
  color: var(--accent);
  text-decoration: underline;
  overflow-wrap: anywhere;
}
.verdict :deep(.word) {
  font-size: 1.125rem;
}
.why {
  display: block;
}
.paper {
  display: none;
}
@media print {
  .tools,
  .drop,
  .state,
  .which,
  .lines,
  .below {
    display: none;
  }
  .paper {
    display: grid;
    grid-template-columns: repeat(3, minmax(0, 1fr));
    gap: 14px;
  }
  .paper h2,
  .paper > p {
    grid-column: 1 / -1;
    margin: 0;
  }
  .paper figure {
    margin: 0;
    break-inside: avoid;
  }
}
</style>
