import { EVIDENCE_CODES, REASON_CODES, POLICY_BOUNDS } from '@clear-mark/core';
import { ERRORS, type ErrorCode } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import { errorWords } from './errors.ts';
import { FAULT_WORDS, faultWords } from './faults.ts';
import { sourceWords } from './names.ts';
import { evidenceWords, reasonWords } from './reasons.ts';

const PARAMS = {
  item: 'primer',
  longest: 88,
  step: 'cure',
  share: 2,
  from: '2026-03-02',
  to: '2026-03-30',
  right: 'results',
  answer: '550 no such mailbox',
  line: 7,
  skill: 'cleave',
  pieces: 'P-1, P-2',
  hazard: 'eyes',
  value: '1.8',
  limit: '1.0',
  unit: 'deg',
  source: 'common_practice',
  uncertainty: '0.1',
  level: 'Lip',
  loss: 0.91,
  wavelength: 1310,
  why: 'setup_broken',
  count: 2,
  criterion: 'x',
  best: 70,
  possible: 100,
  mark: 80,
  faults: 'no_bow',
  hours: 5,
  leg: 4,
  by: '12',
  cord: 'Launch cord 2',
  day: '2026-03-09',
  most: 4,
  drift: 0.3,
  least: 10,
  fails: 2,
  n: 5,
  months: 12,
  marginal: 3,
  passes: 1,
  needed: 'instructor',
  field: 'name',
  problem: 'empty',
  login: 'x',
  timeZone: 'Nowhere',
  name: 'A',
  role: 'lead',
  label: 'Bench 1',
  capacity: 'trainee',
  text: 'abc',
  given: 'mm',
  window: 2,
  of: 12,
  ports: '3 4',
  block: 'DataPts',
  said: '1AB0',
  found: '1AB1',
  types: 'A C',
  wanted: 'B',
  a: 1,
  b: 2,
  wavelengthNm: 1383,
  fiberClass: 'OS2',
  kilobytes: 16,
  megabytes: 12,
  megapixels: 40,
  rows: 12,
  columns: 2,
  first: 1,
  second: 3,
  port: 5,
  practice: 'wipe',
  person: 'A',
  piece: 'T-01',
  sharePasses: 8,
  shareOf: 10,
  pGood: 0.1,
  pBad: 0.3,
  options: '1:cassette_turned|2:trunk_type:B',
  row: 2,
  near: 1,
  far: 2,
  what: 'title',
  material: 'arc',
};

describe('every code has words', () => {
  it.each(Object.keys(ERRORS) as ErrorCode[])('error %s', (code) => {
    const words = errorWords(code, PARAMS);
    expect(words).toMatch(/^[A-Z“1-9].*\.$|^[^?]*\.$/);
    expect(words).not.toContain('?');
    expect(words).not.toContain('undefined');
    expect(words).not.toContain('!');
  });
  it.each(REASON_CODES)('reason %s', (code) => {
    const words = reasonWords({ code, params: PARAMS }, () => 'Label');
    expect(words.length).toBeGreaterThan(2);
    expect(words).not.toMatch(/\?|undefined|NaN/);
  });
  it.each(EVIDENCE_CODES)('evidence %s', (code) => {
    expect(evidenceWords(code, PARAMS)).toMatch(/^[A-Z0-9].*\.$/);
  });
});

describe('sentences', () => {
  it('says value, limit and source', () => {
    const { wavelength: _, ...alone } = PARAMS;
    expect(reasonWords({ code: 'band.over', params: alone }, () => '')).toBe(
      '1.8°, limit 1.0° (common practice)',
    );
    expect(reasonWords({ code: 'check.failed', params: { faults: 'no_bow bow_early' } }, () => '')).toBe(
      'no bow, bow started early',
    );
  });
  it('names the reading among many', () => {
    const params = { ...PARAMS, fiber: 7, direction: 'b_a' };
    expect(reasonWords({ code: 'loss.no_light', params }, () => '')).toBe(
      'no light at fiber 7, 1310 nm, B to A',
    );
    const { wavelength: _, direction: __, ...fiberOnly } = params;
    expect(reasonWords({ code: 'band.over', params: fiberOnly }, () => '')).toBe(
      '1.8° at fiber 7, limit 1.0° (common practice)',
    );
  });
  it('explains a map', () => {
    const say = (code: 'map.wrong_type' | 'map.no_light' | 'map.crossed_fibers', params: object) =>
      reasonWords({ code, params: params as never }, () => '');
    expect(say('map.wrong_type', { types: 'B C', wanted: 'A' })).toBe(
      'the map of a type B or C trunk; this one must be type A',
    );
    expect(say('map.parts' as never, { options: '1:cassette_turned|2:trunk_type:B', row: 0 })).toBe(
      'the cassette (part 1) is turned, or the trunk (part 2) is type B; a walk alone cannot tell which',
    );
    expect(say('map.no_light', { ports: '7' })).toBe('no light from port 7: broken or not mated');
    expect(say('map.no_light', { ports: '7 8' })).toBe('no light from ports 7, 8: broken or not mated');
    expect(say('map.crossed_fibers', { ports: '2 3' })).toBe('fibers crossed at ports 2, 3');
  });
  it('warns of a standard from memory', () => {
    expect(sourceWords({ kind: 'standard', fromMemory: true, words: 'TIA-568' })).toBe(
      'standard, from memory: TIA-568; check it against your own copy',
    );
  });
  it('shows an unknown fault as text, not as code', () => {
    expect(faultWords('some_new_fault')).toBe('some new fault');
    expect(Object.keys(FAULT_WORDS).every((code) => /^[a-z_]+$/.test(code))).toBe(true);
  });
});

describe('limits that a sentence names', () => {
  it('come in with the error, so that the sentence cannot lag behind them', () => {
    for (const [field, [least, most]] of Object.entries(POLICY_BOUNDS)) {
      const words = errorWords('policy.out_of_range', { field, least, most });
      expect(words).toContain(`from ${least} to ${most}.`);
      expect(words).not.toContain(field);
    }
    expect(errorWords('face.too_large', { megabytes: 5, megapixels: 7 })).toContain('5 MB or 7 million');
    expect(errorWords('request.too_large', { kilobytes: 16 })).toContain('16 kB');
  });
});
