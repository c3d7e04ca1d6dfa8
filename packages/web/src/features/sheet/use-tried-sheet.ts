import {
  DEFAULT_SCORING,
  type Entry,
  type EntryValue,
  type MethodSheet,
  type Outcome,
  score,
  standingIds,
} from '@clear-mark/core';
import type { ClassReference } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { computed, type ComputedRef, shallowRef } from 'vue';
import { listCriteria, standingEntry } from './sheet.model.ts';

/** The level that the references of a try stand at, dBm. */
export const TRIED_REFERENCE_DBM = '-10.00';

/** A sheet that is tried: values that are entered and scored here, kept nowhere. References are made up for it. */
export function useTriedSheet(sheet: ComputedRef<MethodSheet>) {
  const entries = shallowRef<readonly Entry[]>([]);
  const criteria = computed(() => listCriteria(sheet.value));
  const references = computed(() => referencesFor(sheet.value));
  const known = computed(() => new Set(criteria.value.map((c) => c.criterion.id)));
  /** What was entered for a criterion that is gone, or is of another kind now, is left out. */
  const standing = computed(() => entries.value.filter((e) => known.value.has(e.criterionId ?? '')));
  const outcome = computed<Outcome>(() =>
    score(sheet.value, standing.value, { ...DEFAULT_SCORING, references: references.value }),
  );
  const outcomes = computed(() => new Map(outcome.value.criteria.map((c) => [c.criterionId, c])));

  function enter(criterionId: string, part: string, value: EntryValue): void {
    const entry: Entry = {
      id: v7(),
      kind: 'value',
      criterionId,
      part,
      value,
      voidReason: null,
      note: null,
      authorId: '',
      capacity: 'instructor',
      deviceId: '',
      source: 'typed',
      at: new Date().toISOString(),
      supersedes: standingIds(entries.value, criterionId, part),
      targetId: null,
    };
    entries.value = [...entries.value, entry];
  }
  const clear = (criterionId?: string): void => {
    entries.value =
      criterionId === undefined ? [] : entries.value.filter((e) => e.criterionId !== criterionId);
  };
  const entryOf = (criterionId: string): Entry | null => standingEntry(standing.value, criterionId, '');
  const entryById = (id: string): Entry | null => entries.value.find((e) => e.id === id) ?? null;
  return { criteria, references, entries: standing, outcome, outcomes, enter, clear, entryOf, entryById };
}

/** One reference for each wavelength and method of the sheet's losses, set now. */
function referencesFor(sheet: MethodSheet): ClassReference[] {
  const made = new Map<string, ClassReference>();
  for (const c of sheet.steps.flatMap((s) => s.criteria)) {
    if (c.kind !== 'loss') continue;
    const method = c.link.referenceMethod;
    for (const wavelengthNm of c.wavelengthsNm) {
      const id = `${method} ${wavelengthNm}`;
      made.set(id, {
        id,
        method,
        wavelengthNm,
        valueDbm: TRIED_REFERENCE_DBM,
        setAt: new Date().toISOString(),
        showsNegative: false,
        rereadDbm: null,
        voidReason: null,
        instrumentId: '',
        instrumentLabel: 'made up for the try',
      });
    }
  }
  return [...made.values()];
}
