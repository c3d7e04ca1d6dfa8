import { describe, expect, it } from 'vitest';
import { REFERENCE_METHODS, type Source } from '../sheet/index.ts';
import { loss, RULES, sheetOf, step } from '../sheet/sheet-for-tests.ts';
import {
  applyLink,
  type AttemptLink,
  countedConnections,
  type LinkPlan,
  linkFindings,
  type LinkSegment,
  linkUnderTest,
  lossTerms,
  REFERENCE_SET_UPS,
} from './index.ts';

const cable = (lengthM: number, more: object = {}): LinkSegment => ({
  kind: 'cable',
  lengthM,
  polish: 'flat',
  ...more,
});
const cassette: LinkSegment = { kind: 'cassette', polish: 'flat', turned: false, pins: true };
const trunk: LinkSegment = { kind: 'trunk', lengthM: 31, polish: 'flat', trunk: 'A', pins: false };
const plan = (more: Partial<LinkPlan>): LinkPlan => ({
  fiberClass: 'OS2',
  fibers: 1,
  ends: ['panel', 'panel'],
  segments: [cable(200)],
  joints: [],
  ...more,
});
const codes = (p: LinkPlan): string[] => linkFindings(p).map((f) => f.code);

describe('parts with coefficients of their own', () => {
  it('count by these, the rest by the table', () => {
    const mixed = plan({
      segments: [
        cable(1000, { dbPerKm: { 1310: 0.4 } }),
        cable(500),
        cable(500, { dbPerKm: { 1310: 0.5, 1550: 0.3 } }),
      ],
      joints: ['splice', 'splice'],
    });
    const link = linkUnderTest(mixed, 'one_cord');
    expect(link).toMatchObject({ lengthM: 2000, ownFiber: [{ lengthM: 1000 }, { lengthM: 500 }] });
    // By hand, table at 1 dB/km: 0.4 + 0.5 + 0.25 dB at 1310 nm; 1.0 + 0.5 + 0.15 dB at 1550 nm.
    const fiberDb = (nm: number): number => lossTerms(link, RULES, nm).fiberDb;
    const table = (nm: number): number => RULES.fiberDbPerKm[nm]!.db;
    expect(fiberDb(1310)).toBeCloseTo(0.4 + 0.5 * table(1310) + 0.25, 12);
    expect(fiberDb(1550)).toBeCloseTo(1.5 * table(1550) + 0.15, 12);
    const plain = lossTerms(linkUnderTest(plan({ segments: [cable(2000)] }), 'one_cord'), RULES, 1310);
    expect(lossTerms({ ...link, ownFiber: [], splices: 0 }, RULES, 1310).limitDb).toBeCloseTo(
      plain.limitDb,
      12,
    );
  });
  it('that are longer than the link are refused', () => {
    const link = {
      ...linkUnderTest(plan({}), 'one_cord'),
      ownFiber: [{ lengthM: 201, dbPerKm: { 1310: 1 } }],
    };
    expect(() => lossTerms(link, RULES, 1310)).toThrow('loss.bad_link');
  });
});

describe('a described link', () => {
  it('counts its pairs, splices and length', () => {
    const pigtails = plan({ segments: [cable(1), cable(198), cable(1)], joints: ['splice', 'splice'] });
    expect(linkUnderTest(pigtails, 'one_cord')).toEqual({
      fiberClass: 'OS2',
      lengthM: 200,
      matedPairs: 2,
      splices: 2,
      referenceMethod: 'one_cord',
    });
    // Common practice: a trunk between two cassettes has four mated pairs.
    const row = plan({
      fiberClass: 'OM4',
      fibers: 12,
      segments: [cassette, trunk, cassette],
      joints: ['connection', 'connection'],
    });
    expect(linkUnderTest(row, 'one_cord')).toMatchObject({ matedPairs: 4, lengthM: 31, splices: 0 });
    expect(linkFindings(row)).toEqual([]);
  });

  it.each<[string, Partial<LinkPlan>]>([
    ['link.empty', { segments: [] }],
    ['link.bare_end', { ends: ['panel', 'bare'] }],
    ['link.no_length', { segments: [cable(0)] }],
    ['link.no_length', { segments: [cable(Number.NaN)] }],
    ['link.no_length', { segments: [cable(-3)] }],
    ['link.too_long', { segments: [cable(10_000_000)] }],
    ['link.splice_mpo', { segments: [cassette, trunk], joints: ['splice'] }],
  ])('%s leaves it without a limit', (code, more) => {
    expect(codes(plan(more))).toContain(code);
    expect(() => linkUnderTest(plan(more), 'one_cord')).toThrow('loss.bad_link');
  });

  it('what is worth a look keeps the limit', () => {
    const two = { segments: [cable(100), cable(100, { polish: 'angled' })], joints: ['connection'] as const };
    expect(codes(plan(two))).toEqual(['link.angled_to_flat']);
    const mixed = plan({ fiberClass: 'OM3', segments: [cable(100, { coreUm: 62.5 })] });
    expect(codes(mixed)).toEqual(['link.core_mixed']);
    const pins = (a: boolean, b: boolean) =>
      codes(
        plan({
          segments: [
            { ...cassette, pins: a },
            { ...trunk, pins: b },
          ],
          joints: ['connection'],
        }),
      );
    expect([pins(true, true), pins(false, false), pins(true, false)]).toEqual([
      ['link.pins_both'],
      ['link.pins_none'],
      [],
    ]);
    expect(linkUnderTest(mixed, 'one_cord').lengthM).toBe(100);
  });
  it('a link of no counted connections is a link', () => {
    expect(lossTerms(linkUnderTest(plan({}), 'three_cord'), RULES, 1310).connections).toBe(0);
  });
});

describe('reference methods', () => {
  it.each(REFERENCE_METHODS)('%s: the drawing counts what the limit counts', (method) => {
    const { reference, test, cords, adapters } = REFERENCE_SET_UPS[method];
    expect(reference.joints).toHaveLength(reference.items.length - 1);
    expect(test.joints).toHaveLength(test.items.length - 1);
    const drawn = test.joints.filter((j) => j === 'counted').length;
    // A link of two end connections: everything counted lies between the cords.
    expect(countedConnections({ matedPairs: 2, referenceMethod: method })).toBe(drawn);
    expect(reference.joints.filter((j) => j === 'zeroed')).toHaveLength(adapters);
    expect(adapters).toBe(cords - 1);
    expect(reference.joints.includes('counted')).toBe(false);
  });
});

describe('ends on reference-grade cords', () => {
  const source: Source = { kind: 'house', fromMemory: false, words: 'for the test' };
  const rules = { ...RULES, referenceEndDb: { db: 0.5, source } };
  const link = linkUnderTest(plan({ segments: [cable(1), cable(1)], joints: ['connection'] }), 'one_cord');
  it('have their own allowance, the rest the usual one', () => {
    expect(lossTerms(link, rules, 1310).connectionsDb).toBeCloseTo(2 * 0.5 + 0.75, 12);
    expect(lossTerms({ ...link, referenceMethod: 'two_cord' }, rules, 1310).connectionsDb).toBeCloseTo(
      1.25,
      12,
    );
    expect(lossTerms({ ...link, referenceMethod: 'three_cord' }, rules, 1310).connectionsDb).toBeCloseTo(
      0.75,
      12,
    );
    expect(lossTerms(link, RULES, 1310).connectionsDb).toBeCloseTo(2.25, 12);
  });
});

describe('a sheet on a link of the class', () => {
  const base = { points: 5, critical: false, required: true, source: RULES.connectionDb.source };
  const map = { ...base, id: 'map', label: 'map', kind: 'map' as const, ports: 12, trunk: 'A' as const };
  const sheet = sheetOf(step('read', 'test', [loss('loss'), map]));
  const on: AttemptLink = {
    id: 'l1',
    label: 'Trunk',
    referenceMethod: 'one_cord',
    rules: RULES,
    plan: plan({
      fiberClass: 'OM4',
      fibers: 12,
      segments: [cassette, trunk, cassette],
      joints: ['connection', 'connection'],
    }),
  };
  it('takes limits, wavelengths, fibers and the map from it, once', () => {
    const made = applyLink(sheet, on);
    expect(made).toBe(applyLink(sheet, { ...on }));
    expect(made.onLink).toEqual({ id: 'l1', label: 'Trunk' });
    const [read, walked] = made.steps[0]!.criteria;
    expect(read).toMatchObject({ wavelengthsNm: [850, 1300], fibers: 12, link: { matedPairs: 4 } });
    expect(walked).toMatchObject({
      ports: 12,
      parts: [{ kind: 'cassette' }, { kind: 'trunk' }, { kind: 'cassette' }],
    });
    expect(applyLink(sheet, null)).toBe(sheet);
  });
});
