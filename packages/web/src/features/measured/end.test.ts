// @vitest-environment happy-dom
import type { EndReading, MeasuredEnd } from '@clear-mark/core';
import { describe, expect, it, vi } from 'vitest';
import { freshPages, openPage } from '../../../test/page.ts';
import { edgeDragged, END_REFUSAL_WORDS, hintOf, isEndStill, lengthOf } from './end.model.ts';
import EndShot from './EndShot.vue';
import type { Shot } from './keep-measured.ts';

freshPages();

const length = (mm: number, sdMm = 0.1) => ({
  mm,
  sdMm,
  budget: { edges: 0.08, marks: 0.01, print: 0.03, height: 0.04, curvature: 0 },
});
const END: MeasuredEnd = {
  ok: true,
  jacket: length(35.124),
  buffer: length(20.4),
  glass: null,
  jacketDiameter: { mm: 3, sdMm: 0.05 },
  print: { scale: 1.001, sd: 0.001 },
  pxPerMm: 10,
  seen: [
    {
      of: 'tip',
      line: [
        { x: 100, y: 190 },
        { x: 100, y: 210 },
      ],
    },
    {
      of: 'jacket',
      line: [
        { x: 450, y: 170 },
        { x: 450, y: 230 },
      ],
    },
  ],
  path: [
    { x: 100, y: 200, mm: 0 },
    { x: 500, y: 200, mm: 40 },
    { x: 800, y: 200, mm: 70 },
  ],
  outline: [
    { x: 50, y: 50 },
    { x: 900, y: 50 },
    { x: 900, y: 400 },
    { x: 50, y: 400 },
  ],
};

describe('a length of an end in a picture', () => {
  it('has its expanded uncertainty, and none where its layer is not seen', () => {
    expect(lengthOf(END, 'jacket', null)).toEqual({ text: '35.12', expanded: '0.20' });
    expect(lengthOf(END, 'glass', null)).toBeNull();
  });
  it('set by hand is what it is set to, believed no closer than 0.6 mm', () => {
    expect(edgeDragged(END, { x: 420, y: 260 })).toBeCloseTo(32, 9);
    expect(lengthOf(END, 'jacket', 32)).toEqual({ text: '32.00', expanded: '0.60' });
    expect(lengthOf({ ...END, jacket: length(35, 0.5) }, 'jacket', 32)!.expanded).toBe('1.00');
    expect(lengthOf(END, 'glass', 8)!.text).toBe('8.00');
  });
  it('is held still where two looks agree', () => {
    const none: EndReading = { ok: false, reason: 'few_marks' };
    expect(isEndStill(null, END)).toBe(false);
    expect(isEndStill(none, END)).toBe(false);
    expect(isEndStill(END, { ...END, jacket: length(35.2) })).toBe(true);
    expect(isEndStill(END, { ...END, jacket: length(35.6) })).toBe(false);
    expect(isEndStill(END, { ...END, glass: length(3) })).toBe(false);
    // Nothing is measured as long as the end of the glass is not seen.
    const unseen: EndReading = { ...END, jacket: null, buffer: null };
    expect(isEndStill(unseen, unseen)).toBe(false);
  });
  it('that cannot be measured says why, in sentences', () => {
    for (const words of Object.values(END_REFUSAL_WORDS)) expect(words).toMatch(/^[A-Z].*\.$/);
  });
});

describe('what to do where there is no length', () => {
  it('is to move the ring where the edge is not certain, until somebody did', () => {
    expect(hintOf(END, 'glass', null)).toMatch(/Move the ring/);
    expect(hintOf(END, 'glass', 8)).toBeNull();
    expect(hintOf(END, 'jacket', null)).toBeNull();
  });
  it('is to photograph it anew where the end of the glass is not seen, whatever else is', () => {
    const blind: MeasuredEnd = { ...END, seen: END.seen.filter((s) => s.of !== 'tip') };
    expect(hintOf(blind, 'jacket', null)).toMatch(/end of the glass is not seen/);
    expect(hintOf(blind, 'glass', 8)).toMatch(/end of the glass is not seen/);
  });
});

describe('the photograph with what was found', () => {
  const shot: Shot<EndReading> = {
    picture: new Blob(),
    url: 'data:,',
    width: 1000,
    height: 500,
    reading: END,
    source: 'file',
  };
  const opened = async (more: object) =>
    (await openPage(EndShot, { props: { shot, end: END, layer: 'jacket', dragged: null, ...more } })).page;
  it('shows card, cable and edges, and a handle on the edge that is asked for', async () => {
    const onDrag = vi.fn();
    const page = await opened({ onDrag });
    expect(page.findAll('line')).toHaveLength(2);
    expect(page.get('.chosen').attributes('x1')).toBe('450');
    // 35.124 mm along: 351.24 pixels from the tip.
    expect(Number(page.get('[data-test=edge-handle]').attributes('cx'))).toBeCloseTo(451.24, 6);
    await page.get('[data-test=edge-handle]').trigger('keydown', { key: 'ArrowLeft' });
    await page.get('[data-test=edge-handle]').trigger('keydown', { key: 'ArrowUp' });
    expect(onDrag).toHaveBeenCalledTimes(1);
    expect(onDrag.mock.calls[0]![0].x).toBeCloseTo(450, 0);
  });
  it('has the handle where somebody set it, half-way where the layer is not certain, and none where the tip is not seen', async () => {
    const set = await opened({ dragged: 20 });
    expect(Number(set.get('[data-test=edge-handle]').attributes('cx'))).toBeCloseTo(300, 9);
    const open = await opened({ layer: 'glass' });
    const along = END.path.at(-1)!.mm / 2;
    expect(open.get('[data-test=edge-handle]').attributes('aria-valuenow')).toBe(String(along));
    expect(open.get('[data-test=edge-handle]').classes()).toContain('unset');
    const hidden = await opened({ layer: 'glass', end: { ...END, seen: [] } });
    expect(hidden.find('[data-test=edge-handle]').exists()).toBe(false);
  });
  it('shows the picture alone where nothing was found', async () => {
    expect((await opened({ end: null })).findAll('svg *')).toHaveLength(0);
  });
});
