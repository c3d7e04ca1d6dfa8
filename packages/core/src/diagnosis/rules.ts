import { type CriterionOutcome, isFail } from '../scoring/index.ts';
import { parsePart } from '../sheet/index.ts';
import { type Cause, type Symptom, WORK_KINDS, type WorkKind } from './causes.ts';
import type { Facts } from './facts.ts';

type Sign = (facts: Facts) => CriterionOutcome | null;

export interface CauseRule {
  readonly cause: Cause;
  /** What on this piece speaks for it. */
  readonly signs: readonly Sign[];
  /** Criteria that, when they passed, speak against it. */
  readonly clearedBy: readonly string[];
  /** Thought of only where something speaks for it. */
  readonly onlyWhenSeen?: boolean;
}

export interface SymptomRule {
  readonly symptom: Symptom;
  readonly seen: (facts: Facts) => readonly CriterionOutcome[];
  /** In the order in which practitioners of this kind think of them; a kind that is not named shows no such symptom. */
  readonly causes: Readonly<Partial<Record<WorkKind, readonly CauseRule[]>>>;
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
    'cleave-angle',
    'worst-angle',
    'angle-left',
    'angle-right',
    'cleave-face',
    'worst-face',
    'gap-picture',
    'one-stroke',
  ].map(failed),
  ['cleave-angle', 'cleave-face'],
);
const DIRTY = because(
  'dirty_face',
  [
    graded('end-face', 'dirty'),
    ...['mated-clean', 'inspect-order', 'not-wiped', 'not-touched', 'ends-clean', 'row'].map(failed),
  ],
  ['end-face', 'mated-clean', 'ends-clean', 'row'],
);
const NOT_HOME = because(
  'not_home',
  [
    ...['bow', 'glow-dims', 'bow-at-mark', 'no-gap', 'home', 'line', 'mark-gap', 'latches'].map(failed),
    over('stem-gap'),
    graded('window-light', 'light'),
  ],
  ['glow-dims', 'bow', 'no-gap', 'window-light', 'green'],
);
const SHORT = because('cleave_short', [under('cleave-length')], ['cleave-length']);
const LONG = because('cleave_long', [over('cleave-length')], ['cleave-length']);
const PULLED = because(
  'fiber_pulled',
  [failed('fiber-not-pulled'), fault('fiber_pulled'), fault('disturbed')],
  ['fiber-not-pulled'],
);
const HALF_LOCKED = because(
  'half_locked',
  ['full-stroke', 'plunged', 'half-turn', 'no-reset', 'wedge-pulled', 'button', 'both-sides'].map(failed),
  ['full-stroke', 'plunged', 'no-reset', 'wedge-pulled', 'button', 'both-sides'],
);
const REUSED_CAP = because('reused_cap', [failed('cap-once')], ['cap-once']);
const RESIDUE = because(
  'coating_residue',
  [failed('coating-gone'), failed('residue')],
  ['coating-gone', 'residue'],
);
const REFERENCE = because(
  'wrong_reference',
  ['reference-set', 'cord-stays', 'cords-in', 'set-up'].map(failed),
  ['reference-set'],
);
const CORD = because('bad_cord', [failed('cords-checked')], ['cords-checked']);
const CORE_SIZE = because('core_size', [fault('wrong_core_cord')], ['set-up']);
const POLISH = because('polish_mismatch', [failed('polish'), fault('polish_mismatch')], ['polish']);
const BEND = because('bend', [failed('dressed'), fault('bend_tight'), fault('buffer_bent')]);
const MISJOINED = [NOT_HOME, BAD_CLEAVE, DIRTY, SHORT, PULLED, HALF_LOCKED];

const GRIT = because('grit', ['clean-1', 'clean-2', 'pad'].map(failed), ['clean-1', 'clean-2']);
const NO_FINISH = because('final_pass_skipped', ['finished', 'strokes-final'].map(failed), ['finished']);
const SCRIBED_HARD = because(
  'scribed_hard',
  [fault('scribed_hard'), failed('one-light-stroke')],
  ['one-light-stroke'],
);
const SNAPPED = because('stub_snapped', [fault('stub_snapped'), failed('stub')], ['stub']);
const EXCESS = because(
  'excess_adhesive',
  [failed('dot'), fault('overfilled'), fault('adhesive_left')],
  ['dot'],
);
const BROKEN_TIP = because('broken_tip', [
  fault('glass_broke'),
  failed('cleave-face'),
  failed('clean-guide'),
]);
const GROOVE = because('groove_dirt', ['grooves-clean', 'cleaver-ready'].map(failed), ['grooves-clean']);
const LYING = because('fiber_lying', ['laid', 'laid-right', 'last-look'].map(failed), ['last-look']);
const MODE_FIELD = because('mode_field_mismatch', [failed('program')]);

const overTheLimit = (f: Facts): readonly CriterionOutcome[] =>
  f.losses.filter((c) => c.verdict === 'fail' || c.verdict === 'marginal_fail');

/** A row in which one fiber fails and all others pass. */
function oneOfRow(f: Facts): readonly CriterionOutcome[] {
  return overTheLimit(f).filter((c) => {
    const byFiber = new Map<number, boolean>();
    for (const part of c.parts) {
      const { fiber } = parsePart(part.part);
      if (fiber === null) return false;
      byFiber.set(fiber, (byFiber.get(fiber) ?? false) || isFail(part.verdict));
    }
    return byFiber.size > 2 && [...byFiber.values()].filter(Boolean).length === 1;
  });
}

const every = (kinds: readonly WorkKind[], causes: readonly CauseRule[]): SymptomRule['causes'] =>
  Object.fromEntries(kinds.map((kind) => [kind, causes]));
const CONNECTORS = ['mechanical_splice', 'polished', 'fused_on'] as const;
const SPLICES = ['fusion_splice', 'fused_on'] as const;

/** The symptom tables of the trade by kind of work (common practice), causes in the order to think of them. */
export const RULES: readonly SymptomRule[] = [
  {
    symptom: 'bend_signature',
    seen: (f) => f.losses.filter((c) => c.flags.includes('bend_suspected')),
    causes: every(WORK_KINDS, [BEND]),
  },
  {
    symptom: 'high_loss',
    seen: (f) =>
      overTheLimit(f).filter((c) => !c.flags.includes('bend_suspected') && !oneOfRow(f).includes(c)),
    causes: {
      mechanical_splice: [...MISJOINED, REUSED_CAP, REFERENCE],
      polished: [DIRTY, SNAPPED, SCRIBED_HARD, GRIT, NO_FINISH, REFERENCE, BEND],
      fused_on: [BAD_CLEAVE, GROOVE, DIRTY, REFERENCE, BEND],
      link_test: [
        REFERENCE,
        CORD,
        CORE_SIZE,
        { ...because('launch_unconditioned', [failed('mandrel')]), onlyWhenSeen: true },
        DIRTY,
        POLISH,
        because('bad_connection'),
        BEND,
      ],
    },
  },
  {
    symptom: 'one_fiber_of_row',
    seen: oneOfRow,
    causes: every(
      ['link_test', 'fused_on'],
      [
        because('dirty_face', [failed('row'), failed('ends-clean')], ['row']),
        because('bad_connection'),
        because('broken_fiber', [failed('light-strong'), failed('port-map')], ['port-map']),
      ],
    ),
  },
  {
    symptom: 'light_at_window',
    seen: anyOf(failed('glow-dims'), graded('window-light', 'light')),
    causes: { mechanical_splice: MISJOINED },
  },
  {
    symptom: 'light_red_again',
    seen: anyOf(failed('green'), fault('light_red')),
    causes: { mechanical_splice: [BAD_CLEAVE, NOT_HOME, DIRTY] },
  },
  {
    symptom: 'loss_slightly_high',
    seen: (f) => f.losses.filter((c) => c.flags.includes('poor_for_good_work')),
    causes: {
      mechanical_splice: [DIRTY, REUSED_CAP, PULLED, REFERENCE],
      polished: [DIRTY, because('worn_film', [fault('section_reused')]), NO_FINISH, REFERENCE],
      fused_on: [DIRTY, REFERENCE],
      link_test: [DIRTY, REFERENCE, CORD],
    },
  },
  {
    symptom: 'bow_early',
    seen: anyOf(fault('bow_early')),
    causes: {
      mechanical_splice: [
        LONG,
        because(
          'obstruction',
          [failed('clean-guide'), fault('tip_dragged'), fault('slot_dirty')],
          ['clean-guide'],
        ),
        RESIDUE,
      ],
    },
  },
  {
    symptom: 'bow_early_twice',
    seen: anyOf(fault('bow_early_twice')),
    causes: { mechanical_splice: [LONG, because('obstruction', [failed('clean-guide')], ['clean-guide'])] },
  },
  {
    symptom: 'no_bow',
    seen: anyOf(fault('no_bow')),
    causes: {
      mechanical_splice: [
        SHORT,
        because('not_held', [fault('bow_let_go'), failed('held'), failed('clamped'), failed('groove')]),
        NOT_HOME,
      ],
    },
  },
  {
    symptom: 'slip_mark_moved',
    seen: anyOf(over('stem-gap')),
    causes: {
      mechanical_splice: [because('mark_slipped', [failed('second-mark')]), NOT_HOME],
    },
  },
  {
    symptom: 'will_not_enter',
    seen: anyOf(fault('forced_in'), fault('fiber_broke_inside')),
    causes: {
      mechanical_splice: [RESIDUE, BROKEN_TIP],
      polished: [RESIDUE, because('adhesive_curing', [over('insertion')], ['insertion']), BROKEN_TIP],
    },
  },
  {
    symptom: 'scratched_face',
    seen: anyOf(graded('end-face', 'damaged')),
    causes: {
      polished: [GRIT, NO_FINISH],
      mechanical_splice: [REUSED_CAP, DIRTY],
      fused_on: [DIRTY],
    },
  },
  {
    symptom: 'dark_at_rim',
    seen: anyOf(graded('end-face', 'broken')),
    causes: { polished: [SCRIBED_HARD, SNAPPED, EXCESS], mechanical_splice: [REUSED_CAP] },
  },
  {
    symptom: 'dirty_after_work',
    seen: anyOf(graded('end-face', 'dirty')),
    causes: {
      polished: [
        because('not_cleaned', [failed('inspect-order'), fault('alcohol_left')], ['inspect-order']),
        EXCESS,
      ],
      mechanical_splice: [
        because('dirty_face', [failed('inspect-order'), fault('alcohol_left')], ['inspect-order']),
      ],
      fused_on: [because('dirty_face', [failed('inspect-order')])],
      link_test: [because('dirty_face', [failed('ends-clean'), failed('inspect-order')])],
    },
  },
  {
    symptom: 'pulls_off',
    seen: anyOf(fault('pulled_off')),
    causes: every(CONNECTORS, [
      because('yarn_short', [fault('yarn_uneven'), fault('yarn_missed'), failed('yarn-length')]),
      because('wrong_die', [fault('wrong_die')]),
      because('sleeve_not_butted', [fault('sleeve_not_butted'), failed('second-crimp')]),
    ]),
  },
  {
    symptom: 'epoxy_soft',
    seen: anyOf(fault('epoxy_soft')),
    causes: {
      polished: [
        because('no_block_contact', [fault('no_contact')]),
        because('short_cure', [failed('cure-time')], ['cure-time']),
      ],
    },
  },
  {
    symptom: 'epoxy_pulled_out',
    seen: anyOf(fault('epoxy_pulled_out'), fault('bead_bumped')),
    causes: { polished: [because('excess_fiber', [failed('through')], ['through']), EXCESS] },
  },
  {
    symptom: 'nothing_out_of_tube',
    seen: anyOf(fault('strip_too_short')),
    causes: {
      preparation: [
        because('strip_short', [failed('strip-length')], ['strip-length']),
        because('tube_kinked', [failed('no-kink')], ['no-kink']),
        because('fiber_cut', [failed('fiber-untouched')], ['fiber-untouched']),
      ],
    },
  },
  {
    symptom: 'splice_bubble',
    seen: anyOf(graded('joint', 'bubble')),
    causes: every(SPLICES, [
      DIRTY,
      because(
        'lip',
        [graded('cleave-face', 'lip'), graded('gap-picture', 'lip'), graded('worst-face', 'lip')],
        ['cleave-face'],
      ),
      because('moisture', [fault('alcohol_left')]),
    ]),
  },
  {
    symptom: 'splice_shape',
    seen: anyOf(graded('joint', 'neck')),
    causes: every(SPLICES, [because('push_or_arc', [failed('program'), failed('arc-check')], ['program'])]),
  },
  {
    symptom: 'splice_offset',
    seen: anyOf(graded('joint', 'offset')),
    causes: every(SPLICES, [GROOVE, LYING]),
  },
  {
    symptom: 'splice_line',
    seen: anyOf(graded('joint', 'line')),
    causes: every(SPLICES, [
      DIRTY,
      because('weak_arc', [failed('program'), failed('arc-check')], ['arc-check']),
    ]),
  },
  {
    symptom: 'will_not_align',
    seen: anyOf(fault('will_not_align')),
    causes: every(SPLICES, [LYING, GROOVE, BAD_CLEAVE]),
  },
  {
    symptom: 'estimate_high',
    seen: (f) =>
      f.passed('joint')
        ? [f.failed('estimate') ?? f.failed('worst-estimate') ?? f.failed('estimates')].flatMap(
            (c) => c ?? [],
          )
        : [],
    causes: every(SPLICES, [MODE_FIELD, BAD_CLEAVE]),
  },
  {
    symptom: 'broke_in_proof',
    seen: anyOf(fault('broke_in_proof')),
    causes: every(SPLICES, [
      because('nicked', [failed('no-nick'), failed('bend-holds'), fault('glass_nicked')], ['no-nick']),
      because('touched', [failed('not-touched'), failed('not-touched-right')], ['not-touched']),
    ]),
  },
  {
    symptom: 'parts_missing',
    seen: anyOf(fault('boot_forgotten'), fault('sleeve_forgotten'), fault('cap_missing')),
    causes: every(WORK_KINDS, [because('parts_first_forgotten', [failed('boot-on'), failed('parts-on')])]),
  },
];
