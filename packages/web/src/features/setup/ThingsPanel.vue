<script setup lang="ts">
import { ownName, type ThingKind, thingsInOrder } from '@clear-mark/core';
import { NewThingBody, type Thing } from '@clear-mark/contract';
import { thingWords } from '@clear-mark/words';
import { v7 } from 'uuid';
import { computed, defineAsyncComponent, ref } from 'vue';
import { request, ROUTES } from '../../api/client.ts';
import { useAct } from '../../api/queries.ts';
import { useClassroom } from '../../classroom/use-classroom.ts';
import { cordState } from './cord-check.model.ts';
import CordCheckDialog from './CordCheckDialog.vue';
import ChoiceField from '../../shared/ChoiceField.vue';
import { useOwnNames } from '../../shared/own-names.ts';
import { offerUndo } from '../../shared/undo.ts';
import CheckedForm from '../../shared/CheckedForm.vue';
import { useForm } from '../../shared/use-form.ts';

const props = defineProps<{ classId: string; things: readonly Thing[] }>();
const emit = defineEmits<{ changed: [] }>();
/** Comes with the reader of CSV, when it is first asked for. */
const EquipmentDialog = defineAsyncComponent(() => import('./equipment-file/EquipmentDialog.vue'));
const reading = ref(false);
const params = computed(() => ({ id: props.classId }));
const checked = useForm(
  NewThingBody,
  { id: v7(), kind: 'bench' as ThingKind, label: '' },
  { 'thing.label_taken': 'label' },
);
const { values, refused, failure, busy, send, reset } = checked;
const retiring = useAct();
const classroom = useClassroom();
const own = useOwnNames();
const checking = ref<Thing | null>(null);
const CORD_WORDS = {
  good: 'holds',
  overdue: 'check it again',
  failed: 'fails',
  unchecked: 'not checked',
} as const;
const cords = computed(() =>
  props.things
    .filter((t) => t.kind === 'cord' && !t.retired)
    .map((t) => ({ ...t, state: cordState(t.check, classroom.today()) })),
);
type Cord = (typeof cords.value)[number];
const groups = computed(() =>
  thingsInOrder(props.things.map((t) => t.kind))
    .map((kind) => ({ kind, list: props.things.filter((t) => t.kind === kind) }))
    .filter((g) => g.list.length > 0),
);

async function add(): Promise<void> {
  if (!(await send((body) => request(ROUTES.addThing, { params: params.value, body })))) return;
  reset({ id: v7(), label: '' });
  emit('changed');
}
function taken(): void {
  reading.value = false;
  emit('changed');
}
async function retire(thing: Thing, retired = !thing.retired): Promise<void> {
  const place = { params: { ...params.value, thingId: thing.id }, body: { retired } };
  if (!(await retiring.act(() => request(ROUTES.changeThing, place)))) return;
  emit('changed');
  offerUndo(`${thing.label} is ${retired ? 'out of use' : 'in use again'}.`, () => retire(thing, !retired));
}
</script>

<template>
  <section class="section">
    <h2>Benches, tools, instruments and lots</h2>
    <p class="soft">Picked once for a bench and carried along, so that results can be split by them.</p>
    <p v-if="groups.length === 0" class="soft">Nothing entered yet.</p>
    <dl class="groups">
      <template v-for="group in groups" :key="group.kind">
        <dt>{{ thingWords(group.kind) }}</dt>
        <dd>
          <el-button
            v-for="thing in group.list"
            :key="thing.id"
            size="large"
            :class="{ retired: thing.retired }"
            :title="thing.retired ? 'Put back into use' : 'Take out of use'"
            @click="retire(thing)"
          >
            {{ thing.label }}<span v-if="thing.retired" class="small soft">out of use</span>
          </el-button>
        </dd>
      </template>
    </dl>
    <CheckedForm :of="checked" class="row add" @send="add">
      <ChoiceField
        v-model="values.kind"
        bare
        label="Kind of equipment"
        :options="own.things([values.kind])"
        :further="ownName"
      />
      <el-form-item prop="label" :error="refused['label']">
        <el-input v-model="values.label" class="label" aria-label="Label" placeholder="Label" />
      </el-form-item>
      <el-button size="large" native-type="submit" :loading="busy">Add</el-button>
      <el-button size="large" @click="reading = true">Out of a file</el-button>
    </CheckedForm>
    <EquipmentDialog
      v-if="reading"
      :class-id="classId"
      :things="things"
      @close="reading = false"
      @added="taken"
    />
    <p v-if="failure ?? retiring.failure.value" class="notice bad" role="alert">
      {{ failure ?? retiring.failure.value }}
    </p>
    <template v-if="cords.length > 0">
      <h3 class="cords">Checks of the test cords</h3>
      <el-table :data="cords" row-key="id" size="large" data-test="cord-checks">
        <el-table-column prop="label" label="Cord" sortable min-width="160" />
        <el-table-column label="Loss, dB" width="110" align="right">
          <template #default="{ row }: { row: Cord }">{{ row.check?.lossDb }}</template>
        </el-table-column>
        <el-table-column label="Limit, dB" width="130" align="right">
          <template #default="{ row }: { row: Cord }">{{ row.check?.limitDb }}</template>
        </el-table-column>
        <el-table-column prop="check.checkedOn" label="Checked" sortable width="130" />
        <el-table-column prop="check.dueOn" label="Holds until" sortable width="140" />
        <el-table-column prop="state" label="State" sortable min-width="130">
          <template #default="{ row }: { row: Cord }">
            <b :class="{ soft: row.state === 'good' }">{{ CORD_WORDS[row.state] }}</b>
          </template>
        </el-table-column>
        <el-table-column width="130" align="right">
          <template #default="{ row }: { row: Cord }">
            <el-button size="large" @click="checking = row">Check</el-button>
          </template>
        </el-table-column>
      </el-table>
    </template>
    <CordCheckDialog
      v-if="checking"
      :class-id="classId"
      :cord="checking"
      @close="checking = null"
      @changed="emit('changed')"
    />
  </section>
</template>

<style scoped>
.groups {
  display: grid;
  grid-template-columns: 130px 1fr;
  gap: 10px 14px;
  align-items: baseline;
}
dt {
  color: var(--ink-soft);
}
dd {
  margin: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.retired {
  border-style: dashed;
  color: var(--ink-soft);
}
.cords {
  margin-top: 18px;
}
.label {
  width: 260px;
}
.add {
  align-items: flex-start;
}
</style>
