<script setup lang="ts">
import { type Cause, type MethodSheet, type Outcome, type Skill, skillsOf } from '@clear-mark/core';
import {
  FLAG_WORDS,
  HAZARD_WORDS,
  reasonWords,
  skillInText,
  skillWords,
  VERDICT_WORDS,
} from '@clear-mark/words';
import { computed, ref } from 'vue';
import VerdictRing from '../../shared/VerdictRing.vue';
import LikelyCauses from './LikelyCauses.vue';
import type { SheetCriterion } from './sheet.model.ts';

const props = defineProps<{
  sheet: MethodSheet;
  outcome: Outcome;
  ifSigned: Outcome | null;
  criteria: readonly SheetCriterion[];
  signed: boolean;
  pending: number;
  canSign: boolean;
  dismissed: ReadonlySet<string>;
}>();
const emit = defineEmits<{
  go: [criterionId: string];
  sign: [];
  charge: [criterionId: string, skill: Skill, cause: Cause];
  dismiss: [criterionId: string, symptom: string, cause: Cause];
}>();

const wide = ref(false);
const SHOWN_MISSING = 4;
const labels = computed(() => new Map(props.criteria.map((c) => [c.criterion.id, c.criterion.label])));
const labelOf = (id: string): string => labels.value.get(id) ?? id;
const skills = computed(() =>
  skillsOf(props.outcome.skills).flatMap((skill) => {
    const group = props.outcome.skills[skill];
    return group ? [{ skill, group, failed: failuresOf(skill) }] : [];
  }),
);
const missing = computed(() => props.outcome.missing);
const flags = computed(() => [...new Set(props.outcome.criteria.flatMap((c) => c.flags))]);
const ready = computed(() => {
  const verdict = props.ifSigned?.verdict;
  return verdict !== undefined && verdict !== 'incomplete' && props.outcome.conflicts.length === 0;
});

/** What failed in a skill, as sentences: a stop first, then each criterion and why. */
function failuresOf(skill: Skill): { id: string; text: string }[] {
  const stops = (props.outcome.stops ?? [])
    .filter((s) => s.skill === skill)
    .map((s) => ({ id: s.criterionId, text: `Stopped for safety: ${HAZARD_WORDS[s.hazard].toLowerCase()}` }));
  const failed = props.outcome.criteria
    .filter((c) => c.skill === skill && c.state !== 'open' && c.state !== 'not_seen' && c.verdict !== 'pass')
    .map((c) => ({
      id: c.criterionId,
      text:
        `${labelOf(c.criterionId)}: ${c.reasons.map((r) => reasonWords(r, labelOf)).join('; ')}` +
        (c.chargedFrom ? ` (charged here from ${skillInText(c.chargedFrom)})` : ''),
    }));
  return [...stops, ...failed];
}
</script>

<template>
  <aside class="outcome" :class="{ wide }" aria-label="Outcome">
    <div class="whole">
      <VerdictRing :verdict="outcome.verdict" :share="outcome.share" :size="64" />
      <div>
        <p class="word" data-test="verdict">{{ VERDICT_WORDS[outcome.verdict] }}</p>
        <p class="soft">
          {{ outcome.points.earned }} of {{ outcome.points.possible }} points<template
            v-if="outcome.points.open > 0"
            >, {{ outcome.points.open }} open</template
          >
        </p>
      </div>
      <button class="act more" type="button" :aria-expanded="wide" @click="wide = !wide">
        {{ wide ? 'Less' : 'Why' }}
      </button>
    </div>
    <ul class="reasons whole-reasons">
      <li v-for="(reason, i) in outcome.reasons" :key="i">{{ reasonWords(reason, labelOf) }}</li>
      <li v-for="flag in flags" :key="flag" class="flag">{{ FLAG_WORDS[flag] }}</li>
    </ul>
    <ul class="skills" aria-live="polite">
      <li v-for="{ skill, group, failed } in skills" :key="skill" class="skill" :data-skill="skill">
        <VerdictRing :verdict="group.verdict" :share="group.share" :size="28" />
        <div class="body">
          <p class="head">
            <b>{{ skillWords(skill) }}</b>
            <span class="soft">{{ VERDICT_WORDS[group.verdict] }}</span>
            <span class="points soft small">{{ group.points.earned }}/{{ group.points.possible }}</span>
          </p>
          <ul class="reasons">
            <li v-for="reason in failed" :key="reason.id">
              <button class="link" type="button" @click="emit('go', reason.id)">{{ reason.text }}</button>
            </li>
          </ul>
        </div>
      </li>
    </ul>
    <LikelyCauses
      class="likely-place"
      :sheet="sheet"
      :outcome="outcome"
      :label-of="labelOf"
      :can-charge="canSign && !signed"
      :dismissed="dismissed"
      @go="emit('go', $event)"
      @charge="(id, skill, cause) => emit('charge', id, skill, cause)"
      @dismiss="(id, symptom, cause) => emit('dismiss', id, symptom, cause)"
    />
    <div v-if="!signed && missing.length > 0" class="missing">
      <p class="soft small">Still missing: {{ missing.length }}</p>
      <ul class="reasons">
        <li v-for="id in missing.slice(0, SHOWN_MISSING)" :key="id">
          <button class="link" type="button" @click="emit('go', id)">{{ labelOf(id) }}</button>
        </li>
        <li v-if="missing.length > SHOWN_MISSING" class="soft">
          and {{ missing.length - SHOWN_MISSING }} more
        </li>
      </ul>
    </div>
    <div v-if="!signed && canSign" class="signing">
      <p v-if="pending > 0" class="small soft">{{ pending }} entries on the way; signing waits for them.</p>
      <button class="act sign" :class="{ next: ready }" type="button" @click="emit('sign')">
        {{ ready ? `Sign: ${VERDICT_WORDS[ifSigned!.verdict].toLowerCase()}` : 'Sign' }}
      </button>
    </div>
  </aside>
</template>

<style scoped>
.outcome {
  /* Blocks instead of a grid: its rows would all be sized again at every tap. */
  contain: layout style;
  padding: 16px;
}
.outcome > * + * {
  margin-top: 12px;
}
.whole {
  display: flex;
  align-items: center;
  gap: 14px;
}
.word {
  font-size: 1.5rem;
  font-weight: 700;
  line-height: 1.15;
}
.more {
  display: none;
  margin-left: auto;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.reasons li {
  font-size: 0.9375rem;
  padding: 1px 0;
}
.flag {
  border-left: 3px solid var(--ink);
  padding-left: 8px !important;
}
.skill {
  display: flex;
  align-items: flex-start;
  gap: 10px;
  border-top: 1px solid var(--hair);
  padding: 8px 0;
}
.body {
  flex: 1;
  min-width: 0;
}
.head {
  display: flex;
  gap: 8px;
  align-items: baseline;
  min-height: 28px;
}
.points {
  margin-left: auto;
}
.link {
  border: 0;
  background: none;
  padding: 3px 0;
  text-align: left;
  cursor: pointer;
  text-decoration: underline;
  text-decoration-color: var(--hair-strong);
  text-underline-offset: 3px;
  min-height: 24px;
}
.link:hover {
  text-decoration-color: var(--ink);
}
.missing {
  border-top: 1px solid var(--hair);
  padding-top: 8px;
}
.signing {
  position: sticky;
  bottom: 0;
  background: var(--sheet);
  padding: 8px 0;
}
.sign {
  width: 100%;
  min-height: 56px;
  font-size: 1.125rem;
}
@media (max-width: 1000px) {
  .outcome {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 4px 12px;
    padding: 8px 12px;
  }
  .outcome > * + * {
    margin-top: 0;
  }
  .more {
    display: inline-flex;
  }
  .whole {
    gap: 10px;
  }
  .whole svg {
    width: 44px;
    height: 44px;
  }
  .word {
    font-size: 1.25rem;
  }
  .skills,
  .missing,
  .likely-place,
  .whole-reasons {
    display: none;
    grid-column: 1 / -1;
  }
  .wide .skills,
  .wide .likely-place,
  .wide .missing,
  .wide .whole-reasons {
    display: block;
  }
  .wide {
    max-height: 60vh;
    overflow: auto;
  }
  .signing {
    grid-column: 2;
    grid-row: 1;
    align-self: center;
  }
  .sign {
    min-height: 52px;
    min-width: 150px;
  }
}
@media (max-width: 480px) {
  .whole {
    flex-wrap: wrap;
  }
  .whole > div {
    flex: 1;
    min-width: 110px;
  }
  .sign {
    min-width: 96px;
  }
}
</style>
