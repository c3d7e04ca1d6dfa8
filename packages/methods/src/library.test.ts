import {
  copySheet,
  type EntryValue,
  isWorkedOut,
  type MethodSheet,
  type Skill,
  readyProblems,
  SKILLS,
  type Verdict,
} from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { SHIPPED_METHODS } from './index.ts';
import { badValue, criteriaOfSheet, nameOf, scorePiece } from './piece-for-tests.ts';

interface Case {
  /** The commonest fault: the criterion that fails, the skills that fail with it, and the whole. */
  readonly fault: readonly [criterion: string, skills: readonly Skill[], whole: Verdict];
  /** A near miss at a limit: the value, and what the criterion and the whole make of it. */
  readonly near: readonly [criterion: string, value: EntryValue | number, verdict: Verdict, whole: Verdict];
}

const mm = (text: string): EntryValue => ({ kind: 'measure', text, unit: 'mm' });
const deg = (text: string): EntryValue => ({ kind: 'measure', text, unit: 'deg' });
const db = (text: string): EntryValue => ({ kind: 'measure', text, unit: 'dB' });
const count = (n: number): EntryValue => ({ kind: 'count', count: n });
const MAP_WITH_A_CROSSED_PAIR: EntryValue = { kind: 'map', far: [2, 1, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12] };
const seconds = (text: string): EntryValue => ({ kind: 'timed', text });

// Written by hand from what the trade says of each method: limits inclusive, a cleave angle with 0.1 degrees of
// uncertainty, a forgotten part or a broken stop rule costs the piece, a slip costs its points.
const grade = (level: string): EntryValue => ({ kind: 'grade', level });
const FAILED: EntryValue = { kind: 'check', passed: false };

const CASES: Readonly<Record<string, Case>> = {
  'round-cord': { fault: ['parts-on', ['strip'], 'fail'], near: ['yarn-length', mm('8.9'), 'fail', 'fail'] },
  'buffer-strip-900': { fault: ['told', ['strip'], 'fail'], near: ['bare-length', mm('27'), 'pass', 'pass'] },
  'flat-drop': { fault: ['no-kink', ['strip'], 'fail'], near: ['twists', count(7), 'pass', 'pass'] },
  'closure-central': { fault: ['lug', ['strip'], 'fail'], near: ['member-gap', mm('2.0'), 'pass', 'pass'] },
  'closure-armored': {
    fault: ['shield-bonded', ['strip'], 'fail'],
    near: ['member-gap', mm('2.1'), 'fail', 'pass'],
  },
  'closure-embedded': {
    fault: ['other-held', ['strip'], 'fail'],
    near: ['member-gap', mm('2'), 'pass', 'pass'],
  },
  'closure-roddable': { fault: ['own-practice', ['strip'], 'fail'], near: ['holds', FAILED, 'fail', 'pass'] },
  'closure-unitube': {
    fault: ['both-in', ['strip'], 'fail'],
    near: ['member-gap', mm('2.01'), 'fail', 'pass'],
  },
  'bench-cleave': {
    fault: ['cleave-face', ['cleave'], 'fail'],
    near: ['cleave-angle', deg('1.0'), 'marginal_pass', 'marginal_pass'],
  },
  // A snapped stub loses its points: the polish may go on, and the scope decides.
  'scribe-pull': { fault: ['glasses', ['strip'], 'fail'], near: ['stub', FAILED, 'fail', 'pass'] },
  'epoxy-heat': {
    fault: ['contact', ['terminate'], 'fail'],
    near: ['cure-time', seconds('15:00'), 'pass', 'pass'],
  },
  'acrylic-primer': {
    fault: ['in-date', ['terminate'], 'fail'],
    near: ['insertion', seconds('15'), 'pass', 'pass'],
  },
  'acrylic-activator': {
    fault: ['home', ['terminate'], 'fail'],
    near: ['set-time', seconds('9.9'), 'fail', 'pass'],
  },
  'handle-crimp': {
    fault: ['cap-once', ['terminate'], 'fail'],
    near: ['cleave-length', mm('8.6'), 'fail', 'fail'],
  },
  'cam-light': { fault: ['no-reset', ['terminate'], 'fail'], near: ['mark-gap', mm('1.0'), 'pass', 'pass'] },
  'lc-wedge-locator': {
    fault: ['glow-dims', ['terminate'], 'fail'],
    near: ['cleave-length', mm('11.0'), 'pass', 'pass'],
  },
  'lc-wedge': { fault: ['bow', ['terminate'], 'fail'], near: ['cleave-length', mm('9.9'), 'fail', 'fail'] },
  'st-wedge': { fault: ['bend-holds', ['strip'], 'fail'], near: ['bare-length', mm('36.1'), 'fail', 'pass'] },
  'st-wedge-locator': {
    fault: ['glow-dims', ['terminate'], 'fail'],
    near: ['jacket-length', mm('67'), 'pass', 'pass'],
  },
  'holder-base': {
    fault: ['bow-at-mark', ['terminate'], 'fail'],
    near: ['cleave-length', mm('8.5'), 'pass', 'pass'],
  },
  'flat-jig': {
    fault: ['wedge-pulled', ['terminate'], 'fail'],
    near: ['window-light', grade('faint'), 'marginal_pass', 'marginal_pass'],
  },
  'plunger-crimp': { fault: ['front-cap', ['strip'], 'fail'], near: ['stem-gap', mm('2'), 'fail', 'fail'] },
  'single-fusion': { fault: ['parts-on', ['strip'], 'fail'], near: ['estimate', db('0.10'), 'fail', 'fail'] },
  'ribbon-splice': { fault: ['order', ['strip'], 'fail'], near: ['estimates', db('0.10'), 'pass', 'pass'] },
  'fused-mpo': {
    fault: ['taut', ['terminate'], 'fail'],
    near: ['worst-angle', deg('1.05'), 'marginal_fail', 'marginal_fail'],
  },
  'duplex-assembly': {
    fault: ['marks', ['terminate'], 'fail'],
    near: ['ports-walked', count(1), 'fail', 'pass'],
  },
  'inspect-single': {
    fault: ['dark-fiber', ['inspect'], 'fail'],
    near: ['magnification', count(100), 'fail', 'pass'],
  },
  'blind-calls': {
    fault: ['sensitivity', ['inspect'], 'fail'],
    near: ['specificity', { kind: 'measure', text: '0.80', unit: '1' }, 'pass', 'pass'],
  },
  'inspect-mpo': { fault: ['inspect-call', ['inspect'], 'fail'], near: ['cleans', count(3), 'pass', 'pass'] },
  // The limit of the one-cord link: 0.2 km x 1.0 + 2 x 0.75 + 2 x 0.3 = 2.3 dB.
  'loss-one-cord': {
    fault: ['cord-stays', ['test'], 'fail'],
    near: ['loss', 2.3, 'marginal_pass', 'marginal_pass'],
  },
  // Two cords: 0.3 km x 1.5 + 1 x 0.75 = 1.2 dB at 1300 nm, where the fiber loses least.
  'loss-two-cord': {
    // Without the mandrel no reading is accepted, so that there is none.
    fault: ['mandrel', ['test'], 'fail'],
    near: ['loss', 1.21, 'marginal_fail', 'marginal_fail'],
  },
  // On single-mode: 0.2 km x 1.0 + 1 x 0.75 + 2 x 0.3 = 1.55 dB.
  'loss-two-cord-sm': {
    fault: ['cord-stays', ['test'], 'fail'],
    near: ['loss', 1.55, 'marginal_pass', 'marginal_pass'],
  },
  // Three cords: no end connection net, 0.3 km x 1.5 = 0.45 dB at 1300 nm.
  'loss-three-cord': { fault: ['ends-clean', ['inspect'], 'fail'], near: ['loss', 0.6, 'fail', 'fail'] },
  'loss-three-cord-sm': { fault: ['ends-clean', ['inspect'], 'fail'], near: ['loss', 1.2, 'fail', 'fail'] },
  'locator-continuity': {
    fault: ['no-look', ['test'], 'fail'],
    near: ['port-map', MAP_WITH_A_CROSSED_PAIR, 'fail', 'fail'],
  },
  // Four mated pairs and 31 m: 4 x 0.75 + 0.031 x 1.5 = 3.0465 dB at 1300 nm, where the fiber loses least.
  'mpo-trunk': {
    fault: ['cord-stays', ['test'], 'fail'],
    near: ['loss', 3.04, 'marginal_pass', 'marginal_pass'],
  },
  'otdr-link': {
    fault: ['launch-longer', ['test'], 'fail'],
    near: ['loss-apart', db('0.050'), 'pass', 'pass'],
  },
  'read-a-trace': {
    fault: ['found', ['test'], 'fail'],
    near: ['verdicts', { kind: 'measure', text: '0.799', unit: '1' }, 'fail', 'fail'],
  },
};

/** The decisive failures of each kind beside those above (the piece is lost or begun again), and what tells them. */
const DECISIVE: Readonly<Record<string, readonly (readonly [string, EntryValue])[]>> = {
  'otdr-link': [
    ['launch-longer', FAILED],
    ['markers', FAILED],
  ],
  'handle-crimp': [
    ['bow', FAILED],
    ['full-stroke', FAILED],
    ['fiber-not-pulled', FAILED],
    ['end-face', grade('damaged')],
    ['end-face', grade('broken')],
  ],
  'plunger-crimp': [
    ['cleave-angle', deg('1.3')],
    ['bow', FAILED],
    ['plunged', FAILED],
    ['end-face', grade('dirty')],
  ],
  'cam-light': [
    ['green', FAILED],
    ['bow', FAILED],
  ],
  'lc-wedge-locator': [
    ['boot-on', FAILED],
    ['bend-holds', FAILED],
    ['bow', FAILED],
    ['end-face', grade('damaged')],
  ],
  'lc-wedge': [['both-sides', FAILED]],
  'st-wedge': [
    ['bow', FAILED],
    ['cleave-length', mm('11.2')],
  ],
  'holder-base': [
    ['told', FAILED],
    ['button', FAILED],
  ],
  'flat-jig': [
    ['bend-check', FAILED],
    ['latches', FAILED],
    ['window-light', grade('light')],
  ],
  'acrylic-primer': [
    ['home', FAILED],
    ['coating-gone', FAILED],
    ['end-face', grade('broken')],
  ],
  'epoxy-heat': [
    ['through', FAILED],
    ['cure-time', seconds('14:59')],
  ],
  'acrylic-activator': [['end-face', grade('damaged')]],
  'single-fusion': [
    ['coating-gone-right', FAILED],
    ['angle-right', deg('1.4')],
    ['joint', grade('offset')],
  ],
  'round-cord': [['fiber-whole', FAILED]],
  'flat-drop': [
    ['strip-length', mm('115')],
    ['fiber-untouched', FAILED],
  ],
};

const short = (sheet: MethodSheet): string => sheet.id.slice(sheet.id.indexOf('/') + 1);
const failing = (skills: Readonly<Partial<Record<Skill, { verdict: Verdict }>>>): Skill[] =>
  SKILLS.filter((s) => skills[s]?.verdict === 'fail');

it('every shipped method has its three cases', () => {
  expect(Object.keys(CASES).sort()).toEqual(SHIPPED_METHODS.map(short).sort());
});

describe.each(SHIPPED_METHODS.map((sheet) => [short(sheet), sheet] as const))('%s', (name, sheet) => {
  const { fault, near } = CASES[name]!;
  const find = (criterion: string) => criteriaOfSheet(sheet).find((c) => nameOf(c) === criterion)!;

  it('a perfect piece passes in every skill, with all its points', () => {
    const outcome = scorePiece(sheet);
    expect(outcome.reasons).toEqual([]);
    expect(outcome.verdict).toBe('pass');
    expect(Object.values(outcome.skills).every((s) => s!.verdict === 'pass')).toBe(true);
    expect(outcome.points.earned).toBe(outcome.points.possible);
  });

  it(`the commonest fault: ${fault[0]}`, () => {
    const outcome = scorePiece(sheet, { [fault[0]]: badValue(find(fault[0])) });
    expect(outcome.verdict).toBe(fault[2]);
    const skill = find(fault[0]).skill ?? sheet.steps.find((s) => s.criteria.includes(find(fault[0])))!.skill;
    expect(fault[1]).toContain(skill);
    if (fault[2] === 'fail') expect(failing(outcome.skills)).toEqual(fault[1]);
    const found = outcome.criteria.find((c) => nameOf({ id: c.criterionId } as never) === fault[0])!;
    expect(found).toMatchObject({ verdict: 'fail', earned: 0 });
  });

  it(`a near miss: ${near[0]}`, () => {
    const value = near[1];
    const outcome =
      typeof value === 'number' ? scorePiece(sheet, {}, value) : scorePiece(sheet, { [near[0]]: value });
    expect(outcome.criteria.find((c) => c.criterionId === find(near[0]).id)!.verdict).toBe(near[2]);
    expect(outcome.verdict).toBe(near[3]);
  });

  it.each(DECISIVE[name] ?? [])('the piece is lost: %s', (criterion, value) => {
    const outcome = scorePiece(sheet, { [criterion]: value });
    expect(outcome.verdict).toBe('fail');
    expect(outcome.criteria.find((c) => c.criterionId === find(criterion).id)!.verdict).toBe('fail');
  });

  it('each criterion can fail, and costs its points', () => {
    for (const c of criteriaOfSheet(sheet).filter((each) => !isWorkedOut(each))) {
      const outcome =
        c.kind === 'loss' ? scorePiece(sheet, {}, 20) : scorePiece(sheet, { [nameOf(c)]: badValue(c) });
      const found = outcome.criteria.find((x) => x.criterionId === c.id)!;
      expect(found.verdict, c.id).toBe('fail');
      expect(outcome.points.earned, c.id).toBe(outcome.points.possible - c.points);
      if (c.critical) expect(outcome.verdict, c.id).toBe('fail');
    }
  });
});

describe('the library as a school would publish it', () => {
  it.each(SHIPPED_METHODS.map((m) => [m.title, m] as const))('%s: nothing is missing', (_title, sheet) => {
    expect(readyProblems(sheet)).toEqual([]);
    expect(readyProblems(copySheet(sheet, 'own/copy', sheet.title))).toEqual([]);
  });
});
