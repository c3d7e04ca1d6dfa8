import { CAUSES, diagnose, type EntryValue, SYMPTOMS } from '@clear-mark/core';
import { CAUSE_WORDS, SYMPTOM_WORDS } from '@clear-mark/words';
import { describe, expect, it } from 'vitest';
import { SHIPPED_METHODS } from './index.ts';
import { badValue, criteriaOfSheet, nameOf, scorePiece } from './piece-for-tests.ts';

const sheetOf = (name: string) => SHIPPED_METHODS.find((m) => m.id === `clear-mark/${name}`)!;
const fails = (...faults: string[]): EntryValue => ({ kind: 'check', passed: false, faults });
const grade = (level: string): EntryValue => ({ kind: 'grade', level });

function found(method: string, changes: Record<string, EntryValue>, lossDb?: number) {
  const sheet = sheetOf(method);
  return diagnose(sheet, scorePiece(sheet, changes, lossDb));
}
const causesOf = (method: string, changes: Record<string, EntryValue>, symptom: string, lossDb?: number) =>
  found(method, changes, lossDb)
    .find((d) => d.symptom === symptom)
    ?.causes.map((c) => c.cause);

// Common practice: the symptom tables of termination and splicing, causes in the order to think of them.
describe('symptoms and their likely causes', () => {
  it('a good piece has none', () => {
    for (const sheet of SHIPPED_METHODS) expect(diagnose(sheet, scorePiece(sheet)), sheet.id).toEqual([]);
  });

  it('a high loss names what failed on this piece first, with its step', () => {
    const changes = { 'cleave-angle': { kind: 'measure', text: '1.6', unit: 'deg' } as const };
    const [diagnosis] = found('lc-wedge-locator', changes, 0.95);
    expect(diagnosis).toMatchObject({ symptom: 'high_loss', seen: ['clear-mark/lc-wedge-locator/loss'] });
    expect(diagnosis!.causes[0]).toEqual({
      cause: 'bad_cleave',
      evidence: ['clear-mark/lc-wedge-locator/cleave-angle'],
      stepId: 'cleave-look',
    });
  });

  it('a high loss with everything else good leaves only what was not ruled out', () => {
    expect(causesOf('lc-wedge-locator', {}, 'high_loss', 0.95)).toEqual([]);
    // Without a step that shows the end face or the bow, the trade's order stands.
    expect(causesOf('loss-one-cord', {}, 'high_loss', 3)).toEqual([
      'not_home',
      'bad_cleave',
      'cleave_short',
      'fiber_pulled',
    ]);
  });

  it.each([
    [
      'lc-wedge-locator',
      { bow: fails('bow_early'), 'cleave-length': { kind: 'measure', text: '11.4', unit: 'mm' } },
      'bow_early',
      'cleave_long',
    ],
    [
      'lc-wedge-locator',
      { bow: fails('no_bow'), 'cleave-length': { kind: 'measure', text: '9.2', unit: 'mm' } },
      'no_bow',
      'cleave_short',
    ],
    [
      'epoxy-heat',
      { 'end-face': grade('damaged'), 'clean-2': fails('grit_carried_over') },
      'scratched_face',
      'grit',
    ],
    [
      'acrylic-primer',
      { 'not-forced': fails('forced_in'), insertion: { kind: 'timed', text: '22' } },
      'will_not_enter',
      'adhesive_curing',
    ],
    [
      'single-fusion',
      { joint: grade('bubble'), 'not-touched': fails('touched_after_cleaning') },
      'splice_bubble',
      'dirty_face',
    ],
    [
      'single-fusion',
      { proof: fails('broke_in_proof'), 'no-nick': fails('glass_nicked') },
      'broke_in_proof',
      'nicked',
    ],
    [
      'single-fusion',
      { estimate: { kind: 'measure', text: '0.2', unit: 'dB' } },
      'estimate_high',
      'mode_field_mismatch',
    ],
    ['single-fusion', { 'parts-on': fails('sleeve_forgotten') }, 'parts_missing', 'parts_first_forgotten'],
    ['flat-jig', { 'windows-dark': fails('light_at_window') }, 'light_at_window', 'not_home'],
  ] as [string, Record<string, EntryValue>, string, string][])(
    '%s %#: %s',
    (method, changes, symptom, cause) => {
      expect(causesOf(method, changes, symptom)![0]).toBe(cause);
    },
  );

  it('one bend, not a bad joint, when 1550 nm is far above 1310 nm', () => {
    const sheet = sheetOf('lc-wedge-locator');
    const outcome = scorePiece(sheet, {}, 0.95);
    const bent = {
      ...outcome,
      criteria: outcome.criteria.map((c) =>
        nameOf({ id: c.criterionId } as never) === 'loss' ? { ...c, flags: ['bend_suspected' as const] } : c,
      ),
    };
    expect(diagnose(sheet, bent).map((d) => d.symptom)).toEqual(['bend_signature']);
  });
});

describe('the rules', () => {
  it('ask only for criteria and levels that some method has', () => {
    // Every failing criterion of every method at once: each rule's evidence must be among them.
    const seen = new Set<string>();
    for (const sheet of SHIPPED_METHODS) {
      for (const c of criteriaOfSheet(sheet)) {
        const outcome =
          c.kind === 'loss' ? scorePiece(sheet, {}, 20) : scorePiece(sheet, { [nameOf(c)]: badValue(c) });
        diagnose(sheet, outcome).forEach((d) => seen.add(d.symptom));
      }
    }
    for (const symptom of [
      'high_loss',
      'light_at_window',
      'scratched_face',
      'splice_shape',
      'estimate_high',
    ]) {
      expect(seen).toContain(symptom);
    }
  });

  it('have words for every symptom and cause', () => {
    expect(Object.keys(SYMPTOM_WORDS).sort()).toEqual([...SYMPTOMS].sort());
    expect(Object.keys(CAUSE_WORDS).sort()).toEqual([...CAUSES].sort());
  });
});
