import type { CriterionOutcome } from '../scoring/index.ts';
import type { Skill } from '../sheet/index.ts';
import type { Facts } from './facts.ts';

export const CAUSES = [
  'not_home',
  'bad_cleave',
  'dirty_face',
  'cleave_short',
  'cleave_long',
  'fiber_pulled',
  'obstruction',
  'coating_residue',
  'not_held',
  'broken_tip',
  'adhesive_curing',
  'worn_film',
  'reused_cap',
  'wrong_reference',
  'grit',
  'final_pass_skipped',
  'scribed_hard',
  'stub_snapped',
  'excess_adhesive',
  'parts_first_forgotten',
  'bend',
  'lip',
  'moisture',
  'push_or_arc',
  'groove_dirt',
  'fiber_lying',
  'weak_arc',
  'mode_field_mismatch',
  'nicked',
  'touched',
] as const;
export type Cause = (typeof CAUSES)[number];

/** The skill in which a cause was made; null where the piece or the material is to blame. */
export const CAUSE_SKILL: Readonly<Record<Cause, Skill | null>> = {
  not_home: 'terminate',
  bad_cleave: 'cleave',
  dirty_face: 'inspect',
  cleave_short: 'cleave',
  cleave_long: 'cleave',
  fiber_pulled: 'terminate',
  obstruction: 'terminate',
  coating_residue: 'strip',
  not_held: 'terminate',
  broken_tip: 'cleave',
  adhesive_curing: 'terminate',
  worn_film: null,
  reused_cap: 'terminate',
  wrong_reference: 'test',
  grit: 'terminate',
  final_pass_skipped: 'terminate',
  scribed_hard: 'cleave',
  stub_snapped: 'cleave',
  excess_adhesive: 'terminate',
  parts_first_forgotten: 'strip',
  bend: 'terminate',
  lip: 'cleave',
  moisture: 'strip',
  push_or_arc: 'splice',
  groove_dirt: 'splice',
  fiber_lying: 'splice',
  weak_arc: null,
  mode_field_mismatch: null,
  nicked: 'strip',
  touched: 'strip',
};

export const SYMPTOMS = [
  'high_loss',
  'light_at_window',
  'loss_slightly_high',
  'bend_signature',
  'bow_early',
  'no_bow',
  'will_not_enter',
  'scratched_face',
  'dirty_after_work',
  'splice_bubble',
  'splice_shape',
  'splice_offset',
  'splice_line',
  'estimate_high',
  'broke_in_proof',
  'parts_missing',
] as const;
export type Symptom = (typeof SYMPTOMS)[number];

type Sign = (facts: Facts) => CriterionOutcome | null;

export interface CauseRule {
  readonly cause: Cause;
  /** What on this piece speaks for it. */
  readonly signs: readonly Sign[];
  /** Criteria that, when they passed, speak against it. */
  readonly clearedBy: readonly string[];
}

export interface SymptomRule {
  readonly symptom: Symptom;
  readonly seen: (facts: Facts) => readonly CriterionOutcome[];
  /** In the order in which practitioners think of them. */
  readonly causes: readonly CauseRule[];
}

const failed =
  (name: string): Sign =>
  (f) =>
    f.failed(name);
const fault =
  (code: string): Sign =>
  (f) =>
    f.fault(code);
const graded =
  (name: string, level: string): Sign =>
  (f) =>
    f.graded(name, level);
const over =
  (name: string): Sign =>
  (f) =>
    f.outside(name, 'over');
const under =
  (name: string): Sign =>
  (f) =>
    f.outside(name, 'under');

const because = (
  cause: Cause,
  signs: readonly Sign[] = [],
  clearedBy: readonly string[] = [],
): CauseRule => ({
  cause,
  signs,
  clearedBy,
});
const anyOf =
  (...signs: readonly Sign[]): SymptomRule['seen'] =>
  (f) =>
    signs.flatMap((sign) => sign(f) ?? []).slice(0, 1);

const BAD_CLEAVE = because(
  'bad_cleave',
  [
    failed('cleave-angle'),
    failed('worst-angle'),
    failed('angle-left'),
    failed('angle-right'),
    failed('cleave-face'),
    failed('worst-face'),
  ],
  ['cleave-angle', 'cleave-face'],
);
const DIRTY = because(
  'dirty_face',
  [
    graded('end-face', 'dirty'),
    failed('mated-clean'),
    failed('inspect-order'),
    failed('not-wiped'),
    failed('not-touched'),
    failed('ends-clean'),
  ],
  ['end-face', 'mated-clean', 'ends-clean'],
);
const NOT_HOME = because(
  'not_home',
  [failed('bow'), failed('glow-dims'), failed('bow-at-mark'), failed('home'), failed('windows-dark')],
  ['glow-dims', 'bow', 'windows-dark'],
);
const SHORT = because('cleave_short', [under('cleave-length')], ['cleave-length']);
const LONG = because('cleave_long', [over('cleave-length')], ['cleave-length']);
const PULLED = because(
  'fiber_pulled',
  [failed('fiber-not-pulled'), fault('fiber_pulled')],
  ['fiber-not-pulled'],
);
const RESIDUE = because(
  'coating_residue',
  [failed('coating-gone'), failed('residue')],
  ['coating-gone', 'residue'],
);
const MISJOINED = [NOT_HOME, BAD_CLEAVE, DIRTY, SHORT, PULLED];

const overTheLimit = (f: Facts): readonly CriterionOutcome[] =>
  f.losses.filter((c) => c.verdict === 'fail' || c.verdict === 'marginal_fail');

/** The symptom tables of the trade (common practice), causes in the order to think of them. */
export const RULES: readonly SymptomRule[] = [
  {
    symptom: 'bend_signature',
    seen: (f) => f.losses.filter((c) => c.flags.includes('bend_suspected')),
    causes: [because('bend', [failed('dressed'), fault('bend_tight'), fault('buffer_bent')])],
  },
  {
    symptom: 'high_loss',
    seen: (f) => overTheLimit(f).filter((c) => !c.flags.includes('bend_suspected')),
    causes: [
      ...MISJOINED,
      because(
        'wrong_reference',
        [failed('reference-set'), failed('cord-stays'), failed('cords-in')],
        ['reference-set'],
      ),
    ],
  },
  {
    symptom: 'light_at_window',
    seen: anyOf(failed('glow-dims'), failed('windows-dark'), failed('green')),
    causes: MISJOINED,
  },
  {
    symptom: 'loss_slightly_high',
    seen: (f) => f.losses.filter((c) => c.flags.includes('poor_for_good_work')),
    causes: [
      DIRTY,
      because('worn_film', [failed('fresh-section')]),
      because('reused_cap', [failed('cap-once')], ['cap-once']),
      because('wrong_reference', [failed('reference-set')], ['reference-set']),
    ],
  },
  {
    symptom: 'bow_early',
    seen: anyOf(fault('bow_early')),
    causes: [
      LONG,
      because('obstruction', [failed('clean-guide'), fault('tip_dragged')], ['clean-guide']),
      RESIDUE,
    ],
  },
  {
    symptom: 'no_bow',
    seen: anyOf(fault('no_bow')),
    causes: [SHORT, because('not_held', [fault('bow_let_go'), failed('held'), failed('clamped')]), NOT_HOME],
  },
  {
    symptom: 'will_not_enter',
    seen: anyOf(fault('forced_in'), fault('fiber_broke_inside')),
    causes: [
      RESIDUE,
      because('broken_tip', [fault('glass_broke'), failed('cleave-face')]),
      because('adhesive_curing', [failed('insertion')], ['insertion']),
    ],
  },
  {
    symptom: 'scratched_face',
    seen: anyOf(graded('end-face', 'damaged')),
    causes: [
      because('grit', [failed('clean-1'), failed('clean-2'), failed('pad')], ['clean-1', 'clean-2']),
      because('final_pass_skipped', [failed('strokes-final'), failed('fresh-section')], ['strokes-final']),
      because('scribed_hard', [failed('one-light-stroke'), fault('scribed_hard')], ['one-light-stroke']),
      because('stub_snapped', [fault('stub_snapped')], ['straight']),
    ],
  },
  {
    symptom: 'dirty_after_work',
    seen: anyOf(graded('end-face', 'dirty')),
    causes: [
      because('dirty_face', [failed('inspect-order'), fault('alcohol_left')], ['inspect-order']),
      because('excess_adhesive', [failed('dot'), fault('overfilled'), fault('adhesive_left')], ['dot']),
    ],
  },
  {
    symptom: 'splice_bubble',
    seen: anyOf(graded('joint', 'bubble')),
    causes: [
      DIRTY,
      because('lip', [graded('cleave-face', 'lip'), graded('worst-face', 'lip')], ['cleave-face']),
      because('moisture', [fault('alcohol_left')]),
    ],
  },
  {
    symptom: 'splice_shape',
    seen: anyOf(graded('joint', 'neck')),
    causes: [because('push_or_arc', [failed('program'), fault('wrong_program')], ['program'])],
  },
  {
    symptom: 'splice_offset',
    seen: anyOf(graded('joint', 'offset')),
    causes: [
      because('groove_dirt', [failed('laid'), failed('cleaver-ready')]),
      because('fiber_lying', [failed('laid')], ['laid']),
    ],
  },
  {
    symptom: 'splice_line',
    seen: anyOf(graded('joint', 'line')),
    causes: [DIRTY, because('weak_arc', [failed('program')], ['program'])],
  },
  {
    symptom: 'estimate_high',
    seen: (f) =>
      f.passed('joint')
        ? [f.failed('estimate') ?? f.failed('worst-estimate') ?? f.failed('estimates')].flatMap(
            (c) => c ?? [],
          )
        : [],
    causes: [because('mode_field_mismatch', [failed('program')]), BAD_CLEAVE],
  },
  {
    symptom: 'broke_in_proof',
    seen: anyOf(fault('broke_in_proof')),
    causes: [
      because('nicked', [failed('no-nick'), failed('bend-holds')], ['no-nick']),
      because('touched', [failed('not-touched')], ['not-touched']),
    ],
  },
  {
    symptom: 'parts_missing',
    seen: anyOf(fault('boot_forgotten'), fault('sleeve_forgotten'), fault('cap_missing')),
    causes: [because('parts_first_forgotten', [failed('boot-on'), failed('parts-on')])],
  },
];
