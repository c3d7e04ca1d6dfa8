import { applyPractice, coverageOf, type Criterion, lossTerms, score } from '@clear-mark/core';
import { MethodSheetShape } from '@clear-mark/contract/sheet';
import { describe, expect, it } from 'vitest';
import { DECIDED_ELSEWHERE, PRACTICE_OPTIONS, SHIPPED_METHODS } from './index.ts';
import { criteriaOfSheet, nameOf, scorePiece } from './piece-for-tests.ts';

const methodOf = (name: string) => SHIPPED_METHODS.find((m) => m.id === `clear-mark/${name}`)!;
const by = (name: string, choices: Record<string, string>) => applyPractice(methodOf(name), choices);
const find = (name: string, choices: Record<string, string>, criterion: string): Criterion | undefined =>
  criteriaOfSheet(by(name, choices)).find((c) => nameOf(c) === criterion);
const limitOf = (name: string, choices: Record<string, string>, nm: number): number => {
  const loss = find(name, choices, 'loss');
  if (loss?.kind !== 'loss') throw new Error('no loss');
  return lossTerms(loss.link, loss.rules, nm).limitDb;
};

describe('practice options', () => {
  it('each question has a default among its options, a reason, and a method that it bears on', () => {
    for (const practice of PRACTICE_OPTIONS) {
      expect(
        practice.options.some((o) => o.id === practice.default),
        practice.id,
      ).toBe(true);
      expect(practice.reason.length).toBeGreaterThan(10);
      expect(
        SHIPPED_METHODS.some((m) => m.schools?.some((s) => s.id === practice.id)),
        practice.id,
      ).toBe(true);
    }
    expect(new Set(PRACTICE_OPTIONS.map((s) => s.id)).size).toBe(PRACTICE_OPTIONS.length);
    expect(DECIDED_ELSEWHERE.length + PRACTICE_OPTIONS.length).toBeGreaterThanOrEqual(26);
  });

  it('every option of every method gives a sheet that can be scored to a pass', () => {
    for (const method of SHIPPED_METHODS) {
      for (const practice of method.schools ?? []) {
        for (const option of practice.options) {
          const sheet = applyPractice(method, { [practice.id]: option.id });
          expect(scorePiece(sheet).verdict, `${method.id} ${practice.id} ${option.id}`).toBe('pass');
        }
      }
    }
  });

  // Worked by hand: a cord straight into the meter has one mated pair inside the span, 0.75 + 2 m x 1.0 dB/km;
  // by the count of each connector it is allowed 1.5 (common practice, both).
  it('the connection allowance', () => {
    expect(limitOf('lc-wedge-locator', {}, 1310)).toBeCloseTo(0.752, 9);
    expect(limitOf('lc-wedge-locator', { 'loss-allowance': 'connectors' }, 1310)).toBeCloseTo(1.502, 9);
    // Two cords leave one connection net; counted one by one both stand: 0.3 x 3.0 + 2 x 0.75.
    expect(limitOf('loss-two-cord', {}, 850)).toBeCloseTo(1.65, 9);
    expect(limitOf('loss-two-cord', { 'loss-allowance': 'connectors' }, 850)).toBeCloseTo(2.4, 9);
  });
  it('the fiber coefficient', () => {
    expect(limitOf('loss-two-cord', { 'fiber-coefficient': 'older' }, 850)).toBeCloseTo(1.8, 9);
    expect(limitOf('loss-one-cord', { 'fiber-coefficient': 'outside' }, 1310)).toBeCloseTo(2.2, 9);
    expect(limitOf('loss-one-cord', { 'fiber-coefficient': 'maker' }, 1550)).toBeCloseTo(2.144, 9);
    expect(limitOf('loss-one-cord', { 'fiber-coefficient': 'older' }, 1310)).toBeCloseTo(2.3, 9);
  });
  it('reference-grade cords: a tighter allowance for each end that meets them, less uncertainty everywhere', () => {
    const choice = { 'reference-cords': 'reference-grade' };
    expect(limitOf('loss-two-cord', choice, 850)).toBeCloseTo(1.4, 9);
    // Two of its four pairs are ends mated to the test cords.
    expect(limitOf('mpo-trunk', choice, 850)).toBeCloseTo(limitOf('mpo-trunk', {}, 850) - 2 * 0.25, 9);
    const u = (choices: Record<string, string>): number => {
      const loss = find('loss-one-cord', choices, 'loss');
      if (loss?.kind !== 'loss') throw new Error('no loss');
      return lossTerms(loss.link, loss.rules, 1310).uncertaintyDb;
    };
    expect(u(choice)).toBeLessThan(u({}));
  });
  it('wavelengths, trunk, magnification, wipes', () => {
    expect(find('mpo-trunk', { wavelengths: 'one' }, 'loss')).toMatchObject({ wavelengthsNm: [850] });
    expect(find('loss-one-cord', { wavelengths: 'long' }, 'loss')).toMatchObject({ wavelengthsNm: [1550] });
    expect(find('mpo-trunk', { trunk: 'B' }, 'port-map')).toMatchObject({ trunk: 'B' });
    expect(find('locator-continuity', { trunk: 'B' }, 'port-map')).toMatchObject({ trunk: 'A' });
    expect(find('inspect-single', { magnification: '400' }, 'magnification')).toMatchObject({
      band: { lower: { value: '400' } },
    });
    const passes = find('handle-crimp', { 'wipes-after-strip': 'one' }, 'wipe-passes');
    expect(passes).toMatchObject({ band: { lower: { value: '1' } } });
    expect(passes).not.toHaveProperty('band.upper');
    expect(find('acrylic-primer', {}, 'wipe-passes')).toBeUndefined();
  });
  it('the depth: full asks what is sampled, a quick check leaves all but what decides', () => {
    const coverage = (choices: Record<string, string>): Set<string> =>
      new Set(criteriaOfSheet(by('handle-crimp', choices)).map(coverageOf));
    expect(coverage({})).toEqual(new Set(['required', 'sampled', 'trainee']));
    expect(coverage({ depth: 'full' })).toEqual(new Set(['required', 'trainee']));
    expect(coverage({ depth: 'quick' })).toEqual(new Set(['required']));
  });
  it('the fiber: class, wavelengths and limit follow it, and the finishing film is required no more', () => {
    const on50 = by('epoxy-heat', { fiber: '50' });
    expect(on50.fiberClass).toBe('OM3');
    expect(find('epoxy-heat', { fiber: '50' }, 'loss')).toMatchObject({
      wavelengthsNm: [850, 1300],
      link: { fiberClass: 'OM3' },
    });
    // 0.75 dB of one mated pair and 2 m at 3.0 dB/km.
    expect(limitOf('epoxy-heat', { fiber: '50' }, 850)).toBeCloseTo(0.756, 9);
    expect(find('epoxy-heat', { fiber: '50' }, 'finished')).toMatchObject({ required: false });
    expect(find('epoxy-heat', {}, 'finished')).toMatchObject({ required: true });
    expect(by('handle-crimp', { fiber: '62' }).fiberClass).toBe('OM1');
    expect(methodOf('loss-one-cord').schools!.some((s) => s.id === 'fiber')).toBe(false);
  });
  it('whatever else a class chose, a termination on multimode has its own table and can be scored', () => {
    for (const method of SHIPPED_METHODS) {
      if (!method.schools?.some((s) => s.id === 'fiber')) continue;
      for (const practice of method.schools) {
        for (const option of practice.options) {
          if (practice.id === 'fiber') continue;
          const sheet = applyPractice(method, { fiber: '50', [practice.id]: option.id });
          expect(scorePiece(sheet).verdict, `${method.id} ${practice.id} ${option.id}`).toBe('pass');
        }
      }
    }
  });
  it('what else a class chose reaches a termination on multimode as well, by its own table', () => {
    const on50 = (choices: Record<string, string>) => find('epoxy-heat', { fiber: '50', ...choices }, 'loss');
    // Each of two connectors at 0.75 dB, and 2 m at 3.0 dB/km; by the older table at 3.5.
    expect(limitOf('epoxy-heat', { fiber: '50', 'loss-allowance': 'connectors' }, 850)).toBeCloseTo(1.506, 9);
    expect(limitOf('epoxy-heat', { fiber: '50', 'fiber-coefficient': 'older' }, 850)).toBeCloseTo(0.757, 9);
    expect(on50({ wavelengths: 'one' })).toMatchObject({ wavelengthsNm: [850] });
    expect(on50({ wavelengths: 'long' })).toMatchObject({ wavelengthsNm: [1300] });
    const cords = on50({ 'reference-cords': 'reference-grade' });
    expect(cords?.kind === 'loss' && cords.rules.uncertainty.map((u) => u.name)).toContain(
      'mating a reference-grade cord again',
    );
    expect(cords?.kind === 'loss' && cords.rules.referenceEndDb).toBeDefined();
    // Two choices at once, whichever is named first.
    const both = { wavelengths: 'one', 'reference-cords': 'reference-grade' };
    expect(on50(both)).toMatchObject({ wavelengthsNm: [850], rules: { referenceEndDb: expect.anything() } });
  });
  it('how a cleave is judged: shipped by the kind, and what a class may add or leave', () => {
    expect(find('lc-wedge', {}, 'cleave-angle')).toBeUndefined();
    expect(find('lc-wedge', { 'inspect-cleaves': 'scope' }, 'cleave-angle')).toMatchObject({
      critical: true,
    });
    expect(find('lc-wedge', { 'inspect-cleaves': 'face' }, 'cleave-face')).toBeDefined();
    expect(find('lc-wedge', { 'inspect-cleaves': 'face' }, 'cleave-angle')).toBeUndefined();
    expect(find('plunger-crimp', {}, 'cleave-angle')).toBeDefined();
    expect(find('plunger-crimp', { 'inspect-cleaves': 'result' }, 'cleave-angle')).toBeUndefined();
  });
  it('the integrity check: another one, none, or one where the kind has none', () => {
    expect(find('lc-wedge', { 'integrity-check': 'four' }, 'bend-holds')!.label).toMatch(/four ways/);
    expect(find('lc-wedge', { 'integrity-check': 'none' }, 'bend-holds')).toBeUndefined();
    expect(find('handle-crimp', {}, 'bend-holds')).toBeUndefined();
    const ids = by('handle-crimp', { 'integrity-check': 'flick' }).steps.map((s) => s.id);
    expect(ids.indexOf('integrity')).toBe(ids.indexOf('buffer') + 1);
  });
  it('faint light and a faint line are what the class says', () => {
    const verdictOf = (name: string, choices: Record<string, string>, criterion: string, level: string) => {
      const found = find(name, choices, criterion);
      return found?.kind === 'grade' ? found.levels.find((l) => l.id === level)!.verdict : null;
    };
    expect(verdictOf('flat-jig', {}, 'window-light', 'faint')).toBe('marginal_pass');
    expect(verdictOf('flat-jig', { 'faint-light': 'fails' }, 'window-light', 'faint')).toBe('fail');
    expect(verdictOf('single-fusion', { 'faint-line': 'passes' }, 'joint', 'line')).toBe('pass');
  });
  it('what is not asked any more leaves the sheet', () => {
    expect(find('single-fusion', {}, 'proof')).toBeDefined();
    expect(find('single-fusion', { 'splice-strength': 'assumed' }, 'proof')).toBeUndefined();
    expect(find('bench-cleave', { 'wipe-after-cleave': 'dry' }, 'not-wiped')).toBeUndefined();
    expect(by('single-fusion', { 'splice-strength': 'assumed' }).chosen).toEqual({
      'splice-strength': 'assumed',
    });
  });
});

describe('the schema of a method pack', () => {
  it('takes the shipped library as it is', () => {
    const library: unknown[] = JSON.parse(JSON.stringify(SHIPPED_METHODS)) as unknown[];
    expect(library.map((sheet) => MethodSheetShape.parse(sheet))).toEqual(library);
  });
  type Tree = Record<string, unknown>;
  const set = (tree: Tree, path: string, value: unknown): void => {
    const keys = path.split('.');
    const at = keys.slice(0, -1).reduce((node, key) => node[key] as Tree, tree);
    at[keys[keys.length - 1]!] = value;
  };
  const broken = (path: string, value: unknown) => {
    const sheet = JSON.parse(JSON.stringify(methodOf('mpo-trunk'))) as Tree;
    set(sheet, path, value);
    const found = MethodSheetShape.safeParse(sheet);
    return found.success ? [] : found.error.issues.map((i) => i.path.join('.'));
  };
  it.each([
    ['a key that nobody knows', 'limit', 1, ''],
    ['points of a half', 'steps.0.criteria.0.points', 1.5, 'steps.0.criteria.0.points'],
    ['a kind that there is not', 'steps.0.criteria.0.kind', 'wish', 'steps.0.criteria.0.kind'],
    ['a limit as a number', 'steps.3.criteria.1.band.upper.value', 1, 'steps.3.criteria.1.band.upper.value'],
    [
      'a limit with a comma',
      'steps.3.criteria.1.band.upper.value',
      '1,0',
      'steps.3.criteria.1.band.upper.value',
    ],
    ['a source without words', 'passMarkSource.words', '', 'passMarkSource.words'],
    ['no cautions', 'cautions', [], 'cautions'],
    ['a skill of its own', 'steps.0.skill', 'polish', 'steps.0.skill'],
  ] as const)('refuses %s, and says where', (_, path, value, where) => {
    expect(broken(path, value)).toEqual([where]);
  });
  it('scores the parsed library as the shipped one', () => {
    const parsed = MethodSheetShape.parse(JSON.parse(JSON.stringify(methodOf('mpo-trunk'))));
    expect(score(parsed, []).missing).toEqual(score(methodOf('mpo-trunk'), []).missing);
  });
});
