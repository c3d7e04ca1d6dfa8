import { type CriterionKind, type Skill, stepsWithOptions } from '@clear-mark/core';
import type { Database } from '../database/database.ts';
import { methodVersion } from '../methods/index.ts';
import { labelsStore } from './labels.store.ts';

export interface CriterionLabel {
  readonly label: string;
  readonly stepTitle: string;
  readonly skill: Skill;
  readonly kind: CriterionKind;
  readonly critical: boolean;
}

export interface Labels {
  readonly criteria: ReadonlyMap<string, CriterionLabel>;
  readonly methods: ReadonlyMap<string, string>;
}

/** Names of methods and criteria, from every version that was ever in force; the newest words win. */
export async function readLabels(db: Database): Promise<Labels> {
  const criteria = new Map<string, CriterionLabel>();
  const methods = new Map<string, string>();
  for (const { id, methodId, title } of await labelsStore(db).versions()) {
    methods.set(methodId, title);
    const version = await methodVersion(db, id);
    for (const step of version ? stepsWithOptions(version.sheet) : []) {
      for (const c of step.criteria) {
        criteria.set(c.id, {
          label: c.label,
          stepTitle: step.title,
          skill: c.skill ?? step.skill,
          kind: c.kind,
          critical: c.critical,
        });
      }
    }
  }
  return { criteria, methods };
}
