<script setup lang="ts">
import type { Account, ClassDetail, Person } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { computed, defineAsyncComponent, ref } from 'vue';
import { request, ROUTES } from '../../api/client.ts';
import { useAct } from '../../api/queries.ts';
import { offerUndo } from '../../shared/undo.ts';
import ChoiceField from '../../shared/ChoiceField.vue';
import CommitField from '../../shared/CommitField.vue';
import { namesIn } from './class-setup.model.ts';

/** Who is in the class: trainees with their groups, instructors; a roster can be pasted. */
const props = defineProps<{ detail: ClassDetail; people: readonly Account[] }>();
const emit = defineEmits<{ changed: [] }>();
const { failure, busy: saving, act } = useAct();
/** Comes with the reader of CSV, when it is first asked for. */
const RosterDialog = defineAsyncComponent(() => import('./roster/RosterDialog.vue'));
const reading = ref(false);
const names = ref('');
const instructor = ref('');
const params = computed(() => ({ id: props.detail.id }));
const roster = computed(() => namesIn(names.value, props.detail.trainees));
const otherInstructors = computed(() =>
  props.people.filter((p) => p.role !== 'trainee' && !props.detail.instructors.some((i) => i.id === p.id)),
);

async function run(work: () => Promise<unknown>): Promise<boolean> {
  const done = await act(work);
  emit('changed');
  return done;
}
const addTrainees = (): Promise<boolean> =>
  run(async () => {
    for (const name of roster.value.fresh) {
      const body = { role: 'trainee', personId: v7(), newPerson: { name } } as const;
      await request(ROUTES.addMember, { params: params.value, body });
    }
    names.value = '';
  });
const addInstructor = (): Promise<boolean> =>
  run(async () => {
    const body = { role: 'instructor', personId: instructor.value, newPerson: null } as const;
    await request(ROUTES.addMember, { params: params.value, body });
    instructor.value = '';
  });
function added(): void {
  reading.value = false;
  emit('changed');
}
/** Out of the class: what was scored stays, and one tap brings the person back. */
async function leave(person: Person): Promise<void> {
  const place = { ...params.value, personId: person.id };
  if (!(await run(() => request(ROUTES.leaveClass, { params: place })))) return;
  const role = person.role === 'trainee' ? 'trainee' : 'instructor';
  const body = { role, personId: person.id, newPerson: null } as const;
  offerUndo(`${person.name} is not in the class any longer.`, () =>
    run(() => request(ROUTES.addMember, { params: params.value, body })),
  );
}
async function setGroup(trainee: ClassDetail['trainees'][number], group: string): Promise<void> {
  const place = { params: { ...params.value, traineeId: trainee.id }, body: { group } };
  if (!(await run(() => request(ROUTES.setGroup, place)))) return;
  const words = group === '' ? `${trainee.name} is in no group.` : `${trainee.name} is in group ${group}.`;
  offerUndo(words, () => setGroup({ ...trainee, group }, trainee.group));
}
</script>

<template>
  <section class="section two">
    <div>
      <h2>Trainees</h2>
      <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
      <el-table
        v-if="detail.trainees.length > 0"
        :data="detail.trainees as ClassDetail['trainees']"
        row-key="id"
        data-test="trainees"
      >
        <el-table-column prop="name" label="Name" sortable min-width="180" />
        <el-table-column prop="group" label="Group" sortable width="190">
          <template #default="{ row }: { row: ClassDetail['trainees'][number] }">
            <CommitField
              :maxlength="30"
              :value="row.group"
              :label="`Group of ${row.name}`"
              placeholder="no group"
              @commit="setGroup(row, $event)"
            />
          </template>
        </el-table-column>
        <el-table-column width="150" align="right">
          <template #default="{ row }: { row: ClassDetail['trainees'][number] }">
            <el-button size="large" :aria-label="`Take out of the class: ${row.name}`" @click="leave(row)"
              >Take out</el-button
            >
          </template>
        </el-table-column>
      </el-table>
      <p v-else class="soft">Nobody yet. Type or paste names, one a line.</p>
      <el-input
        v-model="names"
        class="roster"
        type="textarea"
        :rows="4"
        aria-label="Names of new trainees, one a line"
        placeholder="One name a line"
      />
      <p v-if="roster.known.length > 0" class="soft">Already here: {{ roster.known.join(', ') }}.</p>
      <div class="row adds">
        <el-button
          size="large"
          :type="detail.trainees.length === 0 ? 'primary' : 'default'"
          :disabled="roster.fresh.length === 0"
          :loading="saving"
          @click="addTrainees"
        >
          Add trainees{{ roster.fresh.length > 1 ? ` (${roster.fresh.length})` : '' }}
        </el-button>
        <el-button size="large" @click="reading = true">A roster out of a file</el-button>
      </div>
      <RosterDialog
        v-if="reading"
        :detail="detail"
        :people="people"
        @close="reading = false"
        @added="added"
      />
    </div>
    <div>
      <h2>Instructors</h2>
      <ul>
        <li v-for="i in detail.instructors" :key="i.id">
          <span>{{ i.name }}</span>
          <el-button
            v-if="detail.instructors.length > 1"
            size="large"
            :aria-label="`Take out of the class: ${i.name}`"
            @click="leave(i)"
            >Take out</el-button
          >
        </li>
      </ul>
      <div v-if="otherInstructors.length > 0" class="row">
        <ChoiceField
          v-model="instructor"
          bare
          label="Instructor to add"
          none="choose"
          :options="otherInstructors.map((p) => ({ value: p.id, label: p.name }))"
        />
        <el-button size="large" :disabled="instructor === ''" @click="addInstructor">
          Add instructor
        </el-button>
      </div>
    </div>
  </section>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
  gap: 12px 40px;
}
.roster {
  margin: 14px 0 8px;
}
.adds {
  flex-wrap: wrap;
}
ul {
  padding: 0;
  margin: 8px 0 12px;
  list-style: none;
}
li {
  display: flex;
  align-items: center;
  justify-content: space-between;
  min-height: var(--tap);
  border-bottom: 1px solid var(--hair);
}
@media (max-width: 800px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
