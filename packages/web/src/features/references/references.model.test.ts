import type { ClassReference } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import { driftOf, stateOf } from './references.model.ts';

const reference = (more: Partial<ClassReference> = {}): ClassReference => ({
  id: 'r',
  method: 'one_cord',
  wavelengthNm: 1310,
  valueDbm: '-5.00',
  setAt: '2026-03-02T09:00:00.000Z',
  showsNegative: false,
  rereadDbm: null,
  voidReason: null,
  instrumentId: 'i',
  instrumentLabel: 'Meter 1',
  ...more,
});
const RULES = { mostDriftDb: 0.1, mostHours: 4 };
const at = (hour: string): number => Date.parse(`2026-03-02T${hour}:00.000Z`);

describe('a reference that was read again', () => {
  it.each([
    [null, null],
    ['-5.03', -0.03],
    ['-4,9', 0.1],
    ['-5.00', 0],
  ])('%j after -5.00 dBm moved by %j dB', (rereadDbm, drift) =>
    expect(driftOf(reference({ rereadDbm }))).toBe(drift),
  );
});

describe('what a reference is good for', () => {
  it.each([
    [{}, '10:00', 'not_read_again'],
    [{ rereadDbm: '-5.02' }, '10:00', 'steady'],
    [{ rereadDbm: '-5.10' }, '10:00', 'steady'],
    [{ rereadDbm: '-5.11' }, '10:00', 'drifted'],
    [{}, '13:00', 'not_read_again'],
    [{}, '13:01', 'old'],
    [{ rereadDbm: '-5.3', voidReason: 'setup_broken' }, '10:00', 'void'],
  ] as const)('%j at %s is %s', (more, hour, state) =>
    expect(stateOf(reference(more), at(hour), RULES)).toBe(state),
  );
});
