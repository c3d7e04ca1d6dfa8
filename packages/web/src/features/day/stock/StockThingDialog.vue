<script setup lang="ts">
import { NO_SETTINGS, type StockItemShape, type StockThing, type ThingSettings } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { reactive, ref } from 'vue';
import { request, ROUTES } from '../../../api/client.ts';
import { useAct } from '../../../api/queries.ts';
import DayField from '../../../shared/DayField.vue';
import NumberField from '../../../shared/NumberField.vue';
import { momentWords } from '../../../shared/time-words.ts';
import { instantAt, wallTime } from '../../../shared/wall-time.ts';
import { unitOf, usualSettings } from './stock.model.ts';

/** What is set of a thing, what was done to it, and its count put right with a reason. */
const props = defineProps<{ classId: string; thing: StockThing; items: readonly StockItemShape[] }>();
const emit = defineEmits<{ close: []; changed: [] }>();
const isNew = JSON.stringify(props.thing.settings) === JSON.stringify(NO_SETTINGS);
const form = reactive<ThingSettings>({
  ...(isNew ? usualSettings(props.thing.kind) : props.thing.settings),
});
const isLot = props.thing.settings.item !== null;
const isOven = props.thing.kind === 'oven';
const left = ref(props.thing.left ?? 0);
const reason = ref('');
const acts = useAct();
const at = { params: { id: props.classId, thingId: props.thing.id } };

async function save(): Promise<void> {
  if (!(await acts.act(() => request(ROUTES.setThing, { ...at, body: { ...form } })))) return;
  emit('changed');
  emit('close');
}
async function event(act: 'opened' | 'corrected'): Promise<void> {
  const body = { id: v7(), act, left: act === 'corrected' ? left.value : null, reason: reason.value };
  if (!(await acts.act(() => request(ROUTES.addThingEvent, { ...at, body })))) return;
  reason.value = '';
  emit('changed');
}
const ACTS = { opened: 'opened', serviced: 'serviced', corrected: 'count put right' } as const;
const expires = (wall: string | null): void => {
  form.expiresAt = wall ? instantAt(wall) : null;
};
</script>

<template>
  <el-dialog :model-value="true" :title="thing.label" width="640" append-to-body @close="emit('close')">
    <el-form label-position="top" size="large" class="fields" @submit.prevent="save">
      <template v-if="isOven">
        <NumberField
          :model-value="form.hanging ?? 0"
          label="Places, hanging"
          whole
          :max="200"
          @change="form.hanging = $event"
        />
        <NumberField
          :model-value="form.flat ?? 0"
          label="Places of a tray, flat"
          whole
          :max="200"
          @change="form.flat = $event"
        />
        <NumberField
          :model-value="form.trays ?? 1"
          label="Trays"
          whole
          :min="1"
          :none="1"
          :max="20"
          @change="form.trays = $event"
        />
        <NumberField
          :model-value="form.restMinutes ?? 0"
          label="Minutes between loads"
          whole
          :max="240"
          @change="form.restMinutes = $event"
        />
      </template>
      <NumberField
        v-else
        :model-value="form.uses ?? 0"
        :label="isLot ? `Whole, ${unitOf(thing, items)}` : `Until the next service, ${unitOf(thing, items)}`"
        whole
        :max="1000000"
        @change="form.uses = $event === 0 ? null : $event"
      />
      <NumberField
        v-if="thing.kind === 'cleaver'"
        :model-value="form.positions ?? 0"
        label="Positions of the blade"
        whole
        :max="100"
        @change="form.positions = $event === 0 ? null : $event"
      />
      <template v-if="isLot">
        <el-form-item label="Good until">
          <el-date-picker
            type="datetime"
            format="D MMM YYYY, HH:mm"
            value-format="YYYY-MM-DDTHH:mm"
            placeholder="no date"
            :model-value="form.expiresAt && wallTime(form.expiresAt)"
            @update:model-value="expires"
          />
        </el-form-item>
        <NumberField
          :model-value="form.openedDays ?? 0"
          label="Days once opened"
          whole
          :max="3650"
          @change="form.openedDays = $event === 0 ? null : $event"
        />
      </template>
      <DayField
        v-else
        :model-value="form.dueOn"
        label="Next check or calibration"
        clearable
        @update:model-value="form.dueOn = $event"
      />
    </el-form>
    <div v-if="isLot" class="row">
      <el-button
        size="large"
        :disabled="thing.openedAt !== null"
        data-test="open-lot"
        @click="event('opened')"
        >{{
          thing.openedAt ? `Opened ${momentWords(thing.openedAt, 'short')}` : 'Opened just now'
        }}</el-button
      >
    </div>
    <fieldset v-if="thing.left !== null" class="row correct">
      <legend>Put the count right</legend>
      <NumberField
        :model-value="left"
        :label="`Left, ${unitOf(thing, items)}`"
        whole
        :max="1000000"
        @change="left = $event"
      />
      <label class="field grow">
        <span class="soft">Why</span>
        <el-input v-model="reason" size="large" maxlength="200" data-test="reason" />
      </label>
      <el-button size="large" :disabled="reason.trim() === ''" data-test="correct" @click="event('corrected')"
        >Put right</el-button
      >
    </fieldset>
    <ul v-if="thing.events.length > 0" class="events small">
      <li v-for="e in thing.events.slice(0, 8)" :key="e.id">
        {{ momentWords(e.at, 'short') }}: {{ ACTS[e.act]
        }}<template v-if="e.left !== null"> to {{ e.left }}</template
        ><template v-if="e.reason">, {{ e.reason }}</template> ({{ e.by }})
      </li>
    </ul>
    <p v-if="acts.failure.value" class="notice bad" role="alert">{{ acts.failure.value }}</p>
    <template #footer>
      <el-button size="large" @click="emit('close')">Cancel</el-button>
      <el-button size="large" type="primary" :loading="acts.busy.value" data-test="save-thing" @click="save"
        >Save</el-button
      >
    </template>
  </el-dialog>
</template>

<style scoped>
.fields {
  display: flex;
  flex-wrap: wrap;
  gap: 0 18px;
  align-items: flex-end;
}
.correct {
  border: 1px solid var(--hair);
  border-radius: var(--round);
  margin: 14px 0;
  padding: 8px 12px;
  align-items: flex-end;
}
.correct :deep(.el-form-item) {
  margin: 0;
  display: block;
}
.grow {
  flex: 1;
}
.events {
  padding-left: 18px;
}
</style>
