import {
  type Skill,
  SKILLS,
  skillsInOrder,
  THING_KINDS,
  type ThingKind,
  thingsInOrder,
} from '@clear-mark/core';
import { skillWords, thingWords } from '@clear-mark/words';
import { computed, type ComputedRef } from 'vue';
import { ROUTES } from '../api/client.ts';
import { useReply } from '../api/queries.ts';

export interface Choice<V> {
  readonly value: V;
  readonly label: string;
}
/** What can be chosen, with what the school named itself; `used` are names that are new and nowhere else yet. */
export interface OwnNameChoices {
  readonly skills: (used: Iterable<Skill>) => Choice<Skill>[];
  readonly things: (used: Iterable<ThingKind>) => Choice<ThingKind>[];
  readonly ownSkills: ComputedRef<readonly Skill[]>;
}

export function useOwnNames(): OwnNameChoices {
  const { found } = useReply(ROUTES.ownNames, () => ({}));
  return {
    skills: (used) =>
      skillsInOrder([...SKILLS, ...(found.value?.skills ?? []), ...used]).map((value) => ({
        value,
        label: skillWords(value),
      })),
    things: (used) =>
      thingsInOrder([...THING_KINDS, ...(found.value?.things ?? []), ...used]).map((value) => ({
        value,
        label: thingWords(value),
      })),
    ownSkills: computed(() => found.value?.skills ?? []),
  };
}
