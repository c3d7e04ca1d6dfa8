import {
  type FiberMode,
  type MethodSheet,
  type Policy,
  type Skill,
  wavelengthsOfMode,
} from '@clear-mark/core';
import type { SchoolTable, SchoolTableContent } from '@clear-mark/contract';
import { lossRulesFor } from '@clear-mark/methods/loss';
import { OWN_SOURCE } from '../../../shared/own-source.ts';
import { skillWords, sourceKindWords } from '@clear-mark/words';

/** A table of the school while it is edited: the version that it began from, and what it is now. */
export interface TableEdit {
  readonly id: string;
  readonly from: number;
  readonly retired: boolean;
  readonly table: SchoolTableContent;
}

export const KIND_WORDS: Readonly<Record<SchoolTable['kind'], string>> = {
  loss: 'Loss table',
  drill: 'Drill',
  policy: 'Policy',
  zones: 'Zones',
};

/** A loss table to begin with: the shipped allowances of such fiber, with their sources. */
export function newLossTable(fiber: FiberMode, title: string): SchoolTableContent {
  const rules = lossRulesFor(fiber === 'single_mode' ? 'OS2' : 'OM3', 'one_cord');
  const fiberDbPerKm = Object.fromEntries(
    wavelengthsOfMode(fiber).map((nm) => [nm, rules.fiberDbPerKm[nm]!]),
  );
  const { connectionDb, spliceDb } = rules;
  return {
    kind: 'loss',
    title,
    content: { fiber, fiberDbPerKm, connectionDb, spliceDb },
  };
}

export const newDrill = (skill: Skill): SchoolTableContent => ({
  kind: 'drill',
  title: 'New drill',
  content: {
    title: 'New drill',
    how: '',
    skill,
    criterion: null,
    minutesEach: 5,
    consumables: [],
    source: { ...OWN_SOURCE },
  },
});

export const newPolicy = (policy: Policy, title: string): SchoolTableContent => ({
  kind: 'policy',
  title,
  content: { policy: { ...policy }, source: { ...OWN_SOURCE } },
});

/** What a table says, in a line. */
export function saysOf(table: SchoolTableContent): string {
  switch (table.kind) {
    case 'loss': {
      const { fiber, fiberDbPerKm, connectionDb, spliceDb } = table.content;
      const perKm = Object.entries(fiberDbPerKm).map(([nm, v]) => `${v.db} dB/km at ${nm} nm`);
      const mode = fiber === 'single_mode' ? 'Single-mode' : 'Multimode';
      return `${mode}: connection ${connectionDb.db} dB, splice ${spliceDb.db} dB, ${perKm.join(', ')}`;
    }
    case 'drill': {
      const { skill, criterion, minutesEach } = table.content;
      const wants = criterion === null ? 'the whole skill' : criterion;
      return `${skillWords(skill)}, ${wants}: ${minutesEach} min a piece`;
    }
    case 'policy':
      return `${table.content.policy.passesInARow} passes in a row, lapses after ${table.content.policy.currencyMonths} months`;
    case 'zones':
      return table.content.zones.map((z) => `${z.zone} ${z.fromUm} to ${z.toUm} µm`).join(', ');
    default: {
      const never: never = table;
      return never;
    }
  }
}

/** Where its figures come from: each source once. */
export function sourcesOf(table: SchoolTableContent): string {
  const sources =
    table.kind === 'loss'
      ? [
          table.content.connectionDb,
          table.content.spliceDb,
          ...Object.values(table.content.fiberDbPerKm),
        ].map((v) => v.source)
      : [table.content.source];
  return [...new Set(sources.map((s) => `${sourceKindWords(s)}: ${s.words}`))].join('; ');
}

/** The criteria that a drill of this skill can be for, by the last part of their ids, each once. */
export function criteriaForDrill(
  sheets: readonly MethodSheet[],
  skill: Skill,
): { value: string; label: string }[] {
  const found = new Map<string, string>();
  for (const sheet of sheets) {
    for (const step of sheet.steps) {
      for (const c of step.criteria) {
        const name = c.id.split('/').at(-1)!;
        if ((c.skill ?? step.skill) === skill && !found.has(name)) found.set(name, c.label);
      }
    }
  }
  return [...found]
    .map(([value, label]) => ({ value, label }))
    .sort((a, b) => a.label.localeCompare(b.label));
}
