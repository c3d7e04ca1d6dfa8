import { describe, expect, it } from 'vitest';
import { check, loss, passed, reading, reference, sheetOf, step } from './entries-for-tests.ts';
import { partKey } from '../sheet/index.ts';
import { DEFAULT_SCORING, score } from './score.ts';
import { type CordStamp, isLossPart, type LossReference } from './types.ts';

const SOURCE = { kind: 'house', fromMemory: false, words: 'test' } as const;
const DRIFT = { name: 'drift', shape: 'rectangular', db: 0.1, of: 'drift' } as const;

/** One reading at 1310 nm of a row of fibers by breakout cords, against references. */
function judged(references: readonly LossReference[], more: object = {}, text = '-5.20', at = {}) {
  const criterion = loss('loss', {
    wavelengthsNm: [1310],
    link: {
      fiberClass: 'OS2',
      lengthM: 2,
      matedPairs: 1,
      splices: 0,
      referenceMethod: 'single_cord',
    },
    ...at,
  });
  const sheet = sheetOf(step('t', 'test', [criterion, check('set')]));
  const entry = reading(1310, text, more);
  return score(sheet, [entry, passed('set')], { ...DEFAULT_SCORING, references, timeZone: 'Europe/Lisbon' })
    .criteria[0]!.parts.filter(isLossPart)
    .find((p) => p.entryId === entry.id)!;
}

describe('a reference that was read again', () => {
  const rules = {
    ...(loss('loss', {}) as unknown as { rules: object }).rules,
    uncertainty: [DRIFT],
    driftLimitDb: { db: 0.1, source: SOURCE },
  };
  const at = (rereadDbm: string | null, text: string) =>
    judged([reference(1310, { rereadDbm })], {}, text, { rules });

  it('carries what it may move by until then, and what it moved by afterwards', () => {
    // A rectangle of half-width a is a / sqrt(3) (JCGM 100:2008, 4.3.7); U = 2 u.
    expect(at(null, '-5.70').uncertaintyDb).toBeCloseTo((2 * 0.1) / Math.sqrt(3), 12);
    expect(at('-5.03', '-5.70').uncertaintyDb).toBeCloseTo((2 * 0.03) / Math.sqrt(3), 12);
    expect(at('-5.00', '-5.70').uncertaintyDb).toBe(0);
  });

  it('settles a reading that was near its limit', () => {
    expect(at(null, '-5.70').verdict).toBe('marginal_pass');
    expect(at('-5.01', '-5.70').verdict).toBe('pass');
  });

  it('a drift equal to the limit is allowed and carried whole, one over it is void', () => {
    const most = at('-5.10', '-5.20');
    expect(most).toMatchObject({ verdict: 'pass' });
    expect(most.uncertaintyDb).toBeCloseTo(at(null, '-5.20').uncertaintyDb, 12);
    expect(at('-5.11', '-5.20').reason?.code).toBe('void.reference_drift');
  });
});

describe('a reference of one leg of a breakout cord', () => {
  const fibers = { fibers: 4 };
  const of = (leg: number | null, fiber: number) => {
    const criterion = loss('loss', { wavelengthsNm: [1310], ...fibers });
    const entry = {
      ...reading(1310, '-5.20'),
      part: partKey({ fiber, wavelengthNm: 1310, direction: null }),
    };
    return score(sheetOf(step('t', 'test', [criterion])), [entry], {
      ...DEFAULT_SCORING,
      references: [reference(1310, { leg })],
    }).criteria[0]!.parts.find((p) => p.entryId === entry.id)!;
  };
  it('serves its own fiber and no other', () => {
    expect(of(3, 3).verdict).toBe('pass');
    expect(of(3, 2)).toMatchObject({
      verdict: 'void',
      reason: { code: 'void.reference_leg', params: { leg: 3 } },
    });
  });
  it('serves every fiber where it names none', () => expect(of(null, 2).verdict).toBe('pass'));
});

describe('the test cord that a reading was taken with', () => {
  const cord: CordStamp = {
    thingId: 'c',
    label: 'Launch cord 2',
    checkedOn: '2026-03-02',
    dueOn: '2026-03-02',
    lossDb: '0.18',
    limitDb: '0.5',
  };
  const of = (more: Partial<CordStamp>) => judged([reference(1310)], { cord: { ...cord, ...more } });
  it('checked and good, it changes nothing', () => expect(of({}).verdict).toBe('pass'));
  it('no check said, nothing asked', () => expect(judged([reference(1310)]).verdict).toBe('pass'));
  it('overdue, the reading is void', () =>
    expect(of({ checkedOn: '2026-02-27', dueOn: '2026-03-01' }).reason).toMatchObject({
      code: 'void.cord_overdue',
      params: { cord: 'Launch cord 2', day: '2026-03-01' },
    }));
  it('over its own limit, the reading is void; equal to it, not', () => {
    expect(of({ lossDb: '0,51' }).reason?.code).toBe('void.cord_failed');
    expect(of({ lossDb: '0.50' }).verdict).toBe('pass');
  });
});
