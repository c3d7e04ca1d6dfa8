import { coverageOf } from './coverage.ts';
import type { SheetProblem } from './sheet-problems.ts';
import { sheetProblems } from './sheet-problems.ts';
import type { Criterion, LossCriterion, MethodSheet, Source, Step } from './types.ts';

/** A problem of a draft: one that `blocks` has to be mended before the method is published, the others are advice. */
export interface DraftProblem extends SheetProblem {
  readonly blocks: boolean;
}

/** What can hurt at the bench, when a sheet uses it, and how a caution speaks of it. Common practice. */
export const MATERIALS = ['shards', 'light', 'solvent', 'adhesive', 'heat', 'arc'] as const;
export type Material = (typeof MATERIALS)[number];

const SPEAKS_OF: Readonly<Record<Material, RegExp>> = {
  shards: /shard|offcut|off-cut|splinter|scrap|bare fiber|glass|eye/i,
  light: /laser|look into|light|source|invisible|radiat/i,
  solvent: /alcohol|solvent|flammable|ventilat|fume/i,
  adhesive: /epoxy|adhesive|skin|glove/i,
  heat: /hot|burn|heat|oven/i,
  arc: /arc|voltage|electr/i,
};
const NAMED_IN_TEXT: Readonly<Partial<Record<Material, RegExp>>> = {
  solvent: /alcohol|solvent/i,
  adhesive: /epoxy|adhesive|anaerobic/i,
  heat: /\boven\b|heat gun|hot air/i,
};

/**
 * What is to be done before a draft can be published: all `sheetProblems`, texts and sources that are missing, practice options that say nothing, steps with
 * nothing to score, nothing that every piece is scored by, no caution at all. As advice, what the steps use that no caution
 * speaks of. Example: a limit without words of its source gives `sheet.no_source` at its criterion.
 */
export function readyProblems(sheet: MethodSheet): readonly DraftProblem[] {
  const list: DraftProblem[] = sheetProblems(sheet).map((p) => ({ ...p, blocks: true }));
  const add = (code: SheetProblem['code'], at: { step?: Step; criterion?: Criterion } = {}): void =>
    void list.push({
      code,
      params: at.criterion ? { criterion: at.criterion.id } : {},
      step: at.step?.id ?? null,
      criterion: at.criterion?.id ?? null,
      blocks: true,
    });
  if (isBlank(sheet.title) || isBlank(sheet.summary)) add('sheet.no_words');
  if (isBlank(sheet.passMarkSource.words)) add('sheet.no_source');
  if (!(sheet.passMarkPercent >= 1 && sheet.passMarkPercent <= 100)) add('sheet.pass_mark');
  if (sheet.cautions.length === 0 || sheet.cautions.some((c) => isBlank(c.text))) add('sheet.no_caution');
  for (const step of sheet.steps) {
    if (isBlank(step.title)) add('sheet.no_words', { step });
    if (step.criteria.length === 0) add('sheet.empty_step', { step });
    if ((step.cautions ?? []).some((c) => isBlank(c.text))) add('sheet.no_caution', { step });
    for (const criterion of step.criteria) {
      if (textsOf(criterion).some(isBlank)) add('sheet.no_words', { step, criterion });
      if (sourcesIn(criterion).some((s) => isBlank(s.words))) add('sheet.no_source', { step, criterion });
    }
  }
  for (const { question, reason, options } of sheet.schools ?? []) {
    if ([question, reason, ...options.map((o) => o.label)].some(isBlank)) add('sheet.practice_words');
    if (options.length < 2 || options.every((o) => o.changes.length === 0)) add('sheet.practice_same');
  }
  const all = sheet.steps.flatMap((s) => s.criteria);
  if (all.length > 0 && !all.some((c) => coverageOf(c) === 'required' && c.points > 0)) {
    add('sheet.nothing_required');
  }
  return [...list, ...cautionAdvice(sheet)];
}

const isBlank = (text: string): boolean => text.trim() === '';

function textsOf(c: Criterion): string[] {
  if (c.kind === 'grade') return [c.label, ...c.levels.map((l) => l.label)];
  return c.kind === 'count' ? [c.label, c.noun] : [c.label];
}

/** Every source that a criterion gives for a figure of its own. */
function sourcesIn(c: Criterion): Source[] {
  const limits = 'band' in c ? [c.band.lower, c.band.upper].flatMap((l) => (l ? [l.source] : [])) : [];
  const uncertainty = 'uncertainty' in c && c.uncertainty ? [c.uncertainty.source] : [];
  return [c.source, ...limits, ...uncertainty, ...(c.kind === 'loss' ? allowanceSources(c) : [])];
}

const allowanceSources = ({ rules }: LossCriterion): Source[] =>
  [rules.connectionDb, rules.spliceDb, ...Object.values(rules.fiberDbPerKm)].map((v) => v.source);

/** What the steps of a sheet use. */
function materialsOf(sheet: MethodSheet): ReadonlySet<Material> {
  const used = new Set<Material>();
  for (const step of sheet.steps) {
    if (step.skill === 'strip' || step.skill === 'cleave' || step.place === 'glass') used.add('shards');
    if (step.criteria.some((c) => c.kind === 'loss' || c.kind === 'map')) used.add('light');
    for (const [material, named] of Object.entries(NAMED_IN_TEXT)) {
      if (named.test(step.how)) used.add(material as Material);
    }
  }
  if (sheet.thingsUsed.includes('splicer')) used.add('arc');
  return used;
}

function cautionAdvice(sheet: MethodSheet): DraftProblem[] {
  const texts = [...sheet.cautions, ...sheet.steps.flatMap((s) => s.cautions ?? [])].map((c) => c.text);
  return [...materialsOf(sheet)]
    .filter((material) => !texts.some((text) => SPEAKS_OF[material].test(text)))
    .map((material) => ({
      code: 'sheet.caution_missing',
      params: { material },
      step: null,
      criterion: null,
      blocks: false,
    }));
}
