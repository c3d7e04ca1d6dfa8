<script setup lang="ts">
import { type EvidenceCode, type Policy } from '@clear-mark/core';
import type { OwnSkills } from '@clear-mark/contract';
import { evidenceWords, ruleWords, skillWords, STANDING_WORDS } from '@clear-mark/words';
import StandingMark from '../../shared/StandingMark.vue';
import { dayWords, timeOfDay } from '../../shared/time-words.ts';
import WindowMarks from '../../shared/WindowMarks.vue';

/** How a trainee's own skills stand, what is missing for each, what to practise, and when. */
defineProps<{ own: OwnSkills }>();
</script>

<template>
  <section class="section" data-test="own-skills">
    <h2>How my skills stand</h2>
    <p v-if="own.skills.length === 0" class="soft">
      Nothing is signed yet. Each skill stands here once its first piece is.
    </p>
    <p v-else class="soft">Competent: {{ ruleWords(own.policy as Policy) }}.</p>
    <ul class="skills">
      <li v-for="s in own.skills" :key="s.skill" :data-skill="s.skill">
        <StandingMark :standing="s.standing" />
        <div class="said">
          <p>
            <b>{{ skillWords(s.skill) }}: {{ STANDING_WORDS[s.standing].toLowerCase() }}</b>
            <span v-if="s.rate.kind === 'rate'" class="soft">, {{ s.rate.k }} of {{ s.rate.n }} passed</span>
          </p>
          <p>{{ evidenceWords(s.evidence.code as EvidenceCode, s.evidence.params) }}</p>
          <p v-if="s.behind">
            Most points went at “{{ s.behind.stepTitle }}”: {{ s.behind.label.toLowerCase() }}.
          </p>
          <p v-if="s.drill" class="drill"><span class="soft">To practise:</span> {{ s.drill }}</p>
          <p v-if="s.session">
            <b>{{ dayWords(s.session.startsAt, own.timeZone) }}, {{ timeOfDay(s.session.startsAt) }}</b>
            {{ s.session.minutes }} min{{ s.session.place ? `, ${s.session.place}` : '' }}
          </p>
        </div>
        <WindowMarks class="marks" :marks="s.window" />
      </li>
    </ul>
  </section>
</template>

<style scoped>
.skills {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 420px), 1fr));
  gap: 0 32px;
}
li {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) auto;
  gap: 4px 12px;
  align-items: start;
  border-top: 1px solid var(--hair);
  padding: 12px 0;
}
.drill {
  background: var(--sunk);
  padding: 6px 10px;
  border-radius: var(--round);
  margin-top: 4px;
}
@media (max-width: 500px) {
  .marks {
    grid-column: 2;
  }
}
</style>
