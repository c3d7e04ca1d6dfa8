import { applyPractice, coverageOf, lossTerms, SKILLS } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { DRAWINGS, LC_WEDGE_LOCATOR, SHIPPED_METHODS, STEP_DRAWINGS } from './index.ts';
import { scorePiece } from './piece-for-tests.ts';

const criteria = LC_WEDGE_LOCATOR.steps.flatMap((s) => s.criteria);
const short = (name: string): string => `clear-mark/lc-wedge-locator/${name}`;
const find = (name: string) => criteria.find((c) => c.id === short(name))!;

describe('every shipped sheet', () => {
  it.each(SHIPPED_METHODS.map((m) => [m.id, m] as const))('%s is whole', (id, sheet) => {
    const all = sheet.steps.flatMap((s) => s.criteria);
    expect(all.every((c) => c.id.startsWith(`${id}/`))).toBe(true);
    expect(all.every((c) => c.source.words.length > 0)).toBe(true);
    expect(sheet.cautions.some((c) => c.stop)).toBe(true);
    expect(sheet.cautions.some((c) => c.text.includes('local codes'))).toBe(true);
    for (const c of all) {
      if (c.kind === 'check') expect(c.faults?.length, c.id).toBeGreaterThan(0);
      if (c.kind === 'grade') for (const l of c.levels) expect(DRAWINGS[l.drawing!], l.id).toBeDefined();
    }
  });
});

// Common practice, each kind by itself: what belongs to one is not asked of another.
describe('each kind asks what belongs to it, and nothing of its neighbours', () => {
  const asks = (method: string): Set<string> =>
    new Set(
      SHIPPED_METHODS.find((m) => m.id === `clear-mark/${method}`)!.steps.flatMap((s) =>
        s.criteria.map((c) => c.id.split('/')[2]!),
      ),
    );
  it.each([
    [
      'handle-crimp',
      ['line', 'cap-once', 'wipe-passes'],
      ['jacket-length', 'yarn', 'second-mark', 'bend-holds'],
    ],
    [
      'plunger-crimp',
      ['jacket-length', 'second-mark', 'sleeve-on', 'clamped', 'stem-gap'],
      ['line', 'bend-holds'],
    ],
    [
      'acrylic-primer',
      ['dipped', 'insertion', 'strokes-3'],
      ['jacket-length', 'second-crimp', 'wipe-passes'],
    ],
    ['acrylic-activator', ['jacket-length', 'second-crimp'], ['dipped', 'insertion', 'strokes-final']],
    ['holder-base', ['told', 'bow-at-mark'], ['parts-on', 'fiber-not-pulled']],
    ['lc-wedge', ['bend-holds', 'both-sides'], ['glow-dims', 'line', 'cleave-angle']],
    ['flat-jig', ['bend-check', 'wedge-pulled'], ['fiber-not-pulled', 'bites']],
    ['cam-light', ['seated', 'no-reset', 'shroud'], ['cap-once', 'bend-holds']],
    ['closure-roddable', ['own-practice'], ['member-gap']],
    ['scribe-pull', ['opposite'], ['scribed-twice']],
  ] as const)('%s', (method, has, hasNot) => {
    expect(has.filter((name) => !asks(method).has(name))).toEqual([]);
    expect(hasNot.filter((name) => asks(method).has(name))).toEqual([]);
  });

  it('the cleave of each is its own', () => {
    const target = (method: string): string | undefined => {
      const sheet = SHIPPED_METHODS.find((m) => m.id === `clear-mark/${method}`)!;
      const found = sheet.steps.flatMap((s) => s.criteria).find((c) => c.id.endsWith('/cleave-length'));
      return found?.kind === 'measure' ? found.band.target : undefined;
    };
    expect(['handle-crimp', 'plunger-crimp', 'lc-wedge', 'holder-base', 'bench-cleave'].map(target)).toEqual([
      '8',
      '7',
      '10.5',
      '8',
      '13',
    ]);
  });

  it('the order of integrity check and cleaning is that of the kind', () => {
    const order = (method: string): string[] =>
      SHIPPED_METHODS.find((m) => m.id === `clear-mark/${method}`)!
        .steps.map((s) => s.id)
        .filter((id) => id === 'integrity' || id === 'clean');
    expect(order('lc-wedge')).toEqual(['integrity', 'clean']);
    expect(order('st-wedge')).toEqual(['clean', 'integrity']);
  });

  it('a connector’s sheet asks 12 to 18 things of every piece', () => {
    for (const sheet of SHIPPED_METHODS) {
      const all = sheet.steps.flatMap((s) => s.criteria);
      if (sheet.pieceKind !== 'connector' || !all.some((c) => c.id.endsWith('/loss'))) continue;
      const required = all.filter((c) => coverageOf(c) === 'required').length;
      expect(required, sheet.id).toBeGreaterThanOrEqual(12);
      expect(required, sheet.id).toBeLessThanOrEqual(18);
    }
  });

  it('a damaged face fails every piece that is judged by its face', () => {
    for (const sheet of SHIPPED_METHODS) {
      const face = sheet.steps.flatMap((s) => s.criteria).find((c) => c.id.endsWith('/end-face'));
      if (!face || sheet.id.includes('/inspect-')) continue;
      for (const level of ['dirty', 'damaged', 'broken']) {
        expect(scorePiece(sheet, { 'end-face': { kind: 'grade', level } }).verdict, sheet.id).toBe('fail');
      }
      expect(scorePiece(sheet, { 'end-face': { kind: 'grade', level: 'marks-outside' } }).verdict).toBe(
        'pass',
      );
    }
  });
});

describe('the uncertainty of every loss', () => {
  const losses = SHIPPED_METHODS.flatMap((m) =>
    m.steps.flatMap((s) => s.criteria).flatMap((c) => (c.kind === 'loss' ? [[c.id, c.rules] as const] : [])),
  );
  it.each(losses)('%s: the drift that is let pass is in it', (_, rules) => {
    const drift = rules.uncertainty.filter((p) => p.of === 'drift');
    expect(drift).toMatchObject([{ db: rules.driftLimitDb.db, shape: 'rectangular' }]);
  });
});

describe('drawings of steps', () => {
  const used = SHIPPED_METHODS.flatMap((m) => m.steps.flatMap((s) => s.drawing ?? []));
  it('each that a step names is there, and each that is there is named', () => {
    expect([...new Set(used)].sort()).toEqual(Object.keys(STEP_DRAWINGS).sort());
  });
  it.each(Object.entries(STEP_DRAWINGS))('%s says what it shows and stays on its sheet', (_, drawing) => {
    expect(drawing.says).toMatch(/^[A-Z].*\.$/);
    for (const mark of drawing.marks) {
      if (mark.style !== 'word') {
        expect(mark.path).toMatch(/^[MLHVCQAZmlhvcqaz0-9 .,-]+$/);
        continue;
      }
      // A letter is taken as 8 units wide.
      expect(mark.x + mark.text.length * 8).toBeLessThanOrEqual(drawing.width + 12);
      expect(mark.y).toBeLessThanOrEqual(drawing.height);
    }
  });
  it('every cable of a closure has its own', () => {
    const closures = SHIPPED_METHODS.filter((m) => m.id.includes('/closure-'));
    const names = closures.map((m) => m.steps.find((s) => s.id === 'hold')!.drawing);
    expect(new Set(names).size).toBe(5);
  });
});

describe('pre-polished LC, wedge released, with fault locator', () => {
  it('has its steps in working order', () => {
    expect(LC_WEDGE_LOCATOR.steps.map((s) => s.id)).toEqual([
      'bench-ready',
      'kit',
      'parts-on',
      'jacket',
      'buffer',
      'integrity',
      'clean',
      'cleaver-ready',
      'cleave',
      'insert',
      'release',
      'secure',
      'inspect',
      'reference',
      'loss',
      'clear-up',
    ]);
  });

  // Common practice for this connector on a 2 or 3 mm cord: jacket 70 mm, buffer 40 mm, cleave 10.5 +- 0.5 mm.
  it('holds the lengths of common practice', () => {
    expect(LC_WEDGE_LOCATOR.strip).toEqual({ jacketMm: 70, bufferMm: 40, cleaveMm: 10.5 });
    expect(find('jacket-length')).toMatchObject({ band: { target: '70' } });
    expect(find('bare-length')).toMatchObject({ band: { target: '40' } });
    expect(find('cleave-length')).toMatchObject({
      band: { lower: { value: '10' }, upper: { value: '11' }, target: '10.5' },
      critical: true,
    });
  });

  // Common practice: one connection at 0.75 dB and 2 m of fiber give a limit of about 0.8 dB by mated pairs.
  it('computes the limit of this link', () => {
    const loss = find('loss');
    if (loss.kind !== 'loss') throw new Error('no loss criterion');
    const terms = lossTerms(loss.link, loss.rules, 1310);
    expect(terms.connections).toBe(1);
    expect(terms.limitDb).toBeCloseTo(0.752, 9);
    expect(loss.rules.connectionDb.source).toMatchObject({ kind: 'standard', fromMemory: true });
  });

  it('says of every standard that it was written from memory', () => {
    const sources = criteria.map((c) => c.source).filter((s) => s.kind === 'standard');
    expect(sources.length).toBeGreaterThan(0);
    expect(sources.every((s) => s.fromMemory)).toBe(true);
  });
});

describe('pieces scored by it', () => {
  it('a perfect piece has an outcome in the five skills that it exercises', () => {
    const outcome = scorePiece(LC_WEDGE_LOCATOR);
    expect(SKILLS.filter((s) => outcome.skills[s])).toEqual([
      'strip',
      'cleave',
      'terminate',
      'inspect',
      'test',
    ]);
  });

  it('a forgotten boot fails stripping and the piece, and is the reason', () => {
    const outcome = scorePiece(LC_WEDGE_LOCATOR, {
      'boot-on': { kind: 'check', passed: false, faults: ['boot_forgotten'] },
    });
    expect(outcome.skills.cleave?.verdict).toBe('pass');
    expect(outcome.reasons).toEqual([
      { code: 'group.critical_failed', params: { criterion: short('boot-on') } },
    ]);
  });

  it('a cleave of 1.05 degrees is a marginal fail, 1.2 a fail, where the class looks at cleaves', () => {
    const sheet = applyPractice(LC_WEDGE_LOCATOR, { 'inspect-cleaves': 'scope' });
    const angle = (text: string) =>
      scorePiece(sheet, { 'cleave-angle': { kind: 'measure', text, unit: 'deg' } });
    expect(angle('1.05').skills.cleave?.verdict).toBe('marginal_fail');
    expect(angle('1.2').skills.cleave?.verdict).toBe('fail');
    expect(angle('1.2').skills.strip?.verdict).toBe('pass');
  });

  it('0.72 dB passes marginally, 0.95 dB fails termination and not the test skill', () => {
    expect(scorePiece(LC_WEDGE_LOCATOR, {}, 0.72).skills.terminate?.verdict).toBe('marginal_pass');
    expect(scorePiece(LC_WEDGE_LOCATOR, {}, 0.95).skills.terminate?.verdict).toBe('fail');
    expect(scorePiece(LC_WEDGE_LOCATOR, {}, 0.95).skills.test?.verdict).toBe('pass');
  });
});
