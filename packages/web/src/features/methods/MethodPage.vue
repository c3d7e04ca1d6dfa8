<script setup lang="ts">
import type { MethodVersion } from '@clear-mark/contract';
import { SKILL_WORDS, sourceWords } from '@clear-mark/words';
import { onMounted, ref, shallowRef } from 'vue';
import { call, ROUTES, wordsOf } from '../../api/client.ts';
import { limitWords, sourcesOf } from '../../shared/limit-words.ts';
import StripDrawing from '../../shared/StripDrawing.vue';
import { usePreferences } from '../../shell/preferences.ts';

const props = defineProps<{ classId: string; versionId: string }>();
const preferences = usePreferences();
const version = shallowRef<MethodVersion | null>(null);
const failure = ref<string | null>(null);
const STATE: Readonly<Record<string, string>> = { draft: 'draft', in_force: 'in force', retired: 'retired' };

onMounted(async () => {
  try {
    version.value = await call(ROUTES.methodVersion, { params: { id: props.versionId } });
  } catch (error) {
    failure.value = wordsOf(error);
  }
});
</script>

<template>
  <div class="page">
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <template v-if="version">
      <div class="row spread">
        <h1>{{ version.sheet.title }}</h1>
        <button
          class="act"
          type="button"
          @click="preferences.lengthUnit = preferences.lengthUnit === 'mm' ? 'in' : 'mm'"
        >
          Lengths in {{ preferences.lengthUnit === 'mm' ? 'inches' : 'mm' }}
        </button>
      </div>
      <p class="soft">
        version {{ version.version }}, {{ STATE[version.state] }} · {{ version.sheet.fiberClass }} · pass mark
        {{ version.sheet.passMarkPercent }} % ({{ sourceWords(version.sheet.passMarkSource) }})
      </p>
      <p class="summary">{{ version.sheet.summary }}</p>
      <StripDrawing
        v-if="version.sheet.strip"
        :strip="version.sheet.strip"
        :place="null"
        :unit="preferences.lengthUnit"
      />
      <section class="section">
        <h2>Cautions</h2>
        <ul>
          <li v-for="(c, i) in version.sheet.cautions" :key="i"><b v-if="c.stop">Stop. </b>{{ c.text }}</li>
        </ul>
      </section>
      <section v-for="(step, i) in version.sheet.steps" :key="step.id" class="section">
        <h2>
          {{ i + 1 }}. {{ step.title }} <span class="soft small">{{ SKILL_WORDS[step.skill] }}</span>
        </h2>
        <p class="soft">{{ step.how }}</p>
        <table class="plain">
          <thead>
            <tr>
              <th class="c">Criterion</th>
              <th class="l">Limit</th>
              <th>Source</th>
              <th class="n">Points</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="c in step.criteria" :key="c.id">
              <td>
                {{ c.label }}
                <span v-if="c.stop" class="small"><b>stop</b></span>
                <span v-else-if="c.critical" class="small"><b>critical</b></span>
                <span v-if="!c.required" class="small soft"> optional</span>
              </td>
              <td>{{ limitWords(c, preferences.lengthUnit) }}</td>
              <td class="small soft">{{ sourcesOf(c).map(sourceWords).join('; ') }}</td>
              <td class="n">{{ c.points }}</td>
            </tr>
          </tbody>
        </table>
      </section>
    </template>
  </div>
</template>

<style scoped>
.summary {
  max-width: 70ch;
  margin: 8px 0 12px;
}
.c {
  width: 34%;
}
.l {
  width: 20%;
}
</style>
