import type { Entry } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { originOf, toConfirm } from './origins.model.ts';

const entry = (more: object): Entry => ({
  id: 'e1',
  kind: 'value',
  criterionId: 'c',
  part: '',
  value: null,
  voidReason: null,
  note: null,
  authorId: 'ines',
  capacity: 'instructor',
  deviceId: 'd',
  source: 'typed',
  at: '2026-11-28T10:00:00Z',
  supersedes: [],
  targetId: null,
  ...more,
});
const name = (id: string): string => ({ ines: 'Ines Vorr', tam: 'Tam Okker' })[id] ?? id;

describe('where entries came from', () => {
  it('is said only where it is not plain', () => {
    expect(originOf([entry({}), entry({ id: 'e2' })], name)).toBeNull();
  });
  it('names who handed in, for whom, and whether the author stands by it', () => {
    const handed = entry({ deliveredBy: 'Lead Person', confirmed: false });
    expect(originOf([handed, { ...handed, id: 'e2' }], name)).toEqual({
      delivered: [{ by: 'Lead Person', author: 'Ines Vorr', confirmed: false, awaited: true }],
      claimed: [],
    });
    expect(originOf([entry({ deliveredBy: 'L', confirmed: true })], name)!.delivered[0]).toMatchObject({
      confirmed: true,
      awaited: false,
    });
    // A trainee's own is witnessed by an instructor anyway.
    const own = entry({ deliveredBy: 'L', authorId: 'tam', capacity: 'trainee' });
    expect(originOf([own], name)!.delivered[0]!.awaited).toBe(false);
  });
  it('says what a device claimed as its time', () => {
    const ahead = entry({ claimedAt: '2031-01-01T00:00:00Z' });
    expect(originOf([ahead, ahead], name, (iso) => iso.slice(0, 4))!.claimed).toEqual(['2031']);
  });
  it('asks the author alone to stand by it', () => {
    const handed = [entry({ deliveredBy: 'L' }), entry({ id: 'e2', deliveredBy: 'L', confirmed: true })];
    expect(toConfirm(handed, 'ines')).toEqual(['e1']);
    expect(toConfirm(handed, 'tam')).toEqual([]);
  });
});
