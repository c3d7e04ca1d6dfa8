import { CONCLUSIONS, REFERENCE_METHODS } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { conclusionWords, linkFindingWords } from './conclusions.ts';

const PARAMS = {
  into: '50 µm',
  loss: 1.5,
  wavelength: 1310,
  shorter: 1310,
  over: 0.6,
  step: 0.5,
  limit: 2.3,
  connections: 2,
  each: 0.3,
  count: 2,
  of: 4,
  fibers: '3',
  back: 1,
  direction: 'a_b',
  fiber: 3,
  others: 11,
  distance: 0.05,
  uncertainty: 0.11,
  method: 'one_cord',
  floor: 0.06,
  expected: 0.67,
};

describe('conclusions in words', () => {
  it.each(CONCLUSIONS)('%s', (code) => {
    const words = conclusionWords({ code, params: PARAMS });
    expect(words).toMatch(/^[A-Z0-9].*\.$/);
    expect(words).not.toMatch(/\?|undefined|NaN|!/);
    // One or two sentences, to be read at the bench.
    expect(words.split(/\. |: /).length).toBeLessThanOrEqual(4);
  });
  it('what settles a marginal reading hangs on the reference method', () => {
    const said = REFERENCE_METHODS.map((method) =>
      conclusionWords({ code: 'marginal', params: { ...PARAMS, method } }),
    );
    expect(said.every((s) => s.startsWith('Passes by 0.05 dB, less than the uncertainty of 0.11 dB.'))).toBe(
      true,
    );
    expect(said[1]).toContain('one-cord');
    expect(said[4]).toContain('large-area');
  });
  it('a finding of a link', () => {
    const params = { km: 10_000, most: 200 };
    expect(linkFindingWords({ code: 'link.too_long', stops: true, params })).toContain('metres or feet');
    expect(linkFindingWords({ code: 'link.bare_end', stops: true, params: { end: 'far' } })).toMatch(
      /^The far end/,
    );
  });
});
