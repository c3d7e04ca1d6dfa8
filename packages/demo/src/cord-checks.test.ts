import { cordCheckState, daysAfter } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { cordChecksOf } from './cord-checks.ts';
import { LC_WEDGE_LOCATOR } from '@clear-mark/methods';
import { makeDemo } from './make-demo.ts';

const now = new Date('2026-03-20T12:00:00Z');
const data = makeDemo({ seed: 7, now, story: true, sheet: LC_WEDGE_LOCATOR });

describe('checks of the demo’s test cords', () => {
  const checks = cordChecksOf(data, '2026-03-20');
  it('each cord has one a week, and the newest holds today', () => {
    const cords = data.things.filter((t) => t.kind === 'cord');
    expect(cords.length).toBeGreaterThan(1);
    for (const { id } of cords) {
      const own = checks.filter((c) => c.thingId === id);
      expect(own.length).toBeGreaterThan(2);
      expect(own.slice(1).map((c) => c.checkedOn)).toEqual(
        own.slice(0, -1).map((c) => daysAfter(c.checkedOn, 7)),
      );
      expect(own.every((c) => cordCheckState(c, c.checkedOn) === 'good')).toBe(true);
      expect(cordCheckState(own.at(-1)!, '2026-03-20')).toBe('good');
    }
  });
});
