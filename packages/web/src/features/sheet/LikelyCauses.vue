<script setup lang="ts">
import {
  type Cause,
  CAUSE_SKILL,
  diagnose,
  dismissPart,
  type MethodSheet,
  type Outcome,
  type Skill,
} from '@clear-mark/core';
import { CAUSE_WORDS, skillInText, SYMPTOM_WORDS } from '@clear-mark/words';
import { computed } from 'vue';

/** What likely went wrong on this piece, ranked, each with what speaks for it. It proposes; the instructor decides. */
const props = defineProps<{
  sheet: MethodSheet;
  outcome: Outcome;
  labelOf: (criterionId: string) => string;
  canCharge: boolean;
  /** Suggestions put away on this piece. */
  dismissed: ReadonlySet<string>;
}>();
const emit = defineEmits<{
  go: [criterionId: string];
  charge: [criterionId: string, skill: Skill, cause: Cause];
  dismiss: [criterionId: string, symptom: string, cause: Cause];
}>();

const SHOWN = 3;
const found = computed(() =>
  diagnose(props.sheet, props.outcome).map((d) => ({
    ...d,
    causes: d.causes.filter((c) => !props.dismissed.has(`${d.seen[0]} ${dismissPart(d.symptom, c.cause)}`)),
    away: d.causes.some((c) => props.dismissed.has(`${d.seen[0]} ${dismissPart(d.symptom, c.cause)}`)),
  })),
);

/** The skill that a cause lies in, when the failure counts in another one that this piece also exercises. */
function chargeTo(criterionId: string | undefined, cause: Cause): Skill | null {
  const skill = CAUSE_SKILL[cause];
  const failed = props.outcome.criteria.find((c) => c.criterionId === criterionId);
  if (!props.canCharge || skill === null || !failed || failed.skill === skill) return null;
  if (failed.verdict !== 'fail' && failed.verdict !== 'marginal_fail') return null;
  return props.outcome.skills[skill] ? skill : null;
}
</script>

<template>
  <section v-if="found.length > 0" class="likely" aria-label="Likely causes" data-test="likely-causes">
    <h3>Likely causes</h3>
    <div v-for="d in found" :key="d.symptom" class="symptom">
      <p>
        <b>{{ SYMPTOM_WORDS[d.symptom] }}</b>
      </p>
      <p v-if="d.causes.length === 0" class="soft small">
        {{
          d.away
            ? 'Every suggestion was dismissed.'
            : 'Nothing scored on this piece explains it. Read it again after cleaning.'
        }}
      </p>
      <ol v-else>
        <li v-for="c in d.causes.slice(0, SHOWN)" :key="c.cause">
          <div class="cause">
            <div class="said">
              {{ CAUSE_WORDS[c.cause] }}
              <button
                v-for="id in c.evidence"
                :key="id"
                class="link small"
                type="button"
                @click="emit('go', id)"
              >
                {{ labelOf(id) }}
              </button>
              <span v-if="c.evidence.length === 0" class="soft small">not ruled out</span>
            </div>
            <button
              v-if="canCharge"
              class="act wrong"
              type="button"
              :aria-label="`Not this: ${CAUSE_WORDS[c.cause]}`"
              @click="emit('dismiss', d.seen[0]!, d.symptom, c.cause)"
            >
              Not this
            </button>
          </div>
          <button
            v-if="chargeTo(d.seen[0], c.cause)"
            class="act charge"
            type="button"
            @click="emit('charge', d.seen[0]!, chargeTo(d.seen[0], c.cause)!, c.cause)"
          >
            Charge to {{ skillInText(chargeTo(d.seen[0], c.cause)!) }}
          </button>
        </li>
      </ol>
    </div>
    <p class="soft small">By the trade’s symptom tables (common practice). The instructor decides.</p>
  </section>
</template>

<style scoped>
.likely {
  border-top: 1px solid var(--hair);
  padding-top: 8px;
}
ol {
  margin: 2px 0 6px;
  padding-left: 22px;
}
.cause {
  display: flex;
  align-items: flex-start;
  gap: 8px;
  margin-bottom: 6px;
}
.said {
  flex: 1;
  min-width: 0;
  padding-top: 4px;
}
.wrong {
  flex: none;
  padding: 0 10px;
  font-size: 0.9375rem;
}
.charge {
  display: flex;
  margin: 4px 0;
  font-size: 0.9375rem;
}
.link {
  display: block;
  border: 0;
  background: none;
  padding: 3px 0;
  min-height: 24px;
  text-align: left;
  cursor: pointer;
  text-decoration: underline;
  text-decoration-color: var(--hair-strong);
  text-underline-offset: 3px;
}
</style>
