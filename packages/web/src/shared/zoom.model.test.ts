import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { boxSeen, isHeld } from './zoom.model.ts';

const box = { x: 100, y: 50, width: 400, height: 200 };

describe('the part of a drawing that is seen', () => {
  it('is all of it at once, and a quarter of its area at twice the size', () => {
    expect(boxSeen(box, { k: 1, x: 0, y: 0 }, 800)).toEqual(box);
    // Twice about the middle of a screen of 800 x 400: what was there before stays in the middle.
    expect(boxSeen(box, { k: 2, x: -400, y: -200 }, 800)).toEqual({
      x: 200,
      y: 100,
      width: 200,
      height: 100,
    });
  });
  it('never leaves the drawing, wherever it is dragged', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 16, noNaN: true }),
        fc.integer({ min: -20_000, max: 20_000 }),
        fc.integer({ min: -20_000, max: 20_000 }),
        (k, x, y) => {
          const seen = boxSeen(box, { k, x, y }, 800);
          expect(seen.x).toBeGreaterThanOrEqual(box.x);
          expect(seen.y).toBeGreaterThanOrEqual(box.y);
          expect(seen.x + seen.width).toBeLessThanOrEqual(box.x + box.width + 1e-9);
          expect(seen.y + seen.height).toBeLessThanOrEqual(box.y + box.height + 1e-9);
        },
      ),
    );
  });
  it('is the whole where the width of the screen is not known yet', () =>
    expect(boxSeen(box, { k: 1, x: 30, y: 30 }, 0)).toEqual(box));
});

describe('what is done on a drawing', () => {
  it.each([
    [{ type: 'wheel' }, 1, false],
    [{ type: 'wheel', ctrlKey: true }, 1, true],
    [{ type: 'wheel' }, 2, true],
    [{ type: 'touchstart', touches: { length: 1 } }, 1, false],
    [{ type: 'touchstart', touches: { length: 2 } }, 1, true],
    [{ type: 'touchstart', touches: { length: 1 } }, 3, true],
    [{ type: 'mousedown', button: 0 }, 1, false],
    [{ type: 'mousedown', button: 0 }, 2, true],
    [{ type: 'mousedown', button: 2 }, 2, false],
  ])('%j at %d times is its own: %s', (gesture, k, held) => expect(isHeld(gesture, k)).toBe(held));
});
