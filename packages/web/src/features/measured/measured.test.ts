// @vitest-environment happy-dom
import type { CleavedEnd, CleaveReading } from '@clear-mark/core';
import { ROUTES } from '@clear-mark/contract';
import { describe, expect, it, vi } from 'vitest';
import { CLASS, freshPages, id, openPage, settled, TestServer } from '../../../test/page.ts';
import { draggedTo, isStill, REFUSAL_WORDS, valueOf } from './cleave.model.ts';
import MeasuredPictures from './MeasuredPictures.vue';
import MeasuredShot from './MeasuredShot.vue';
import type { Shot } from './keep-measured.ts';

freshPages();

const END: CleavedEnd = {
  side: 'left',
  angleDeg: -0.437,
  angleSd: 0.06,
  class: 'mirror',
  signs: {} as CleavedEnd['signs'],
  isDirty: false,
  face: [
    { x: 300, y: 280 },
    { x: 300, y: 200 },
  ],
  axis: [
    { x: 100, y: 240 },
    { x: 300, y: 240 },
  ],
  edges: [],
};
const reading = (end: Partial<CleavedEnd> = {}): CleaveReading => ({
  ok: true,
  umPerPx: 1,
  umPerPxSd: 0.01,
  ends: [{ ...END, ...end }],
});

describe('a value of a picture', () => {
  it('is the angle without its sign, with its expanded uncertainty', () => {
    expect(valueOf(END, null, false)).toEqual({ text: '0.44', expanded: '0.12' });
    expect(valueOf({ ...END, angleDeg: null, angleSd: null }, null, false)).toBeNull();
  });
  it('of a picture that was taken from a screen is believed less closely', () => {
    expect(valueOf(END, null, true)).toEqual({ text: '0.44', expanded: '0.23' });
    expect(valueOf({ ...END, angleDeg: null, angleSd: null }, null, true)).toBeNull();
    const dragged = draggedTo(END.face, 1, { x: 304, y: 200 });
    expect(valueOf({ ...END, angleSd: 0.2 }, dragged, true)!.expanded).toBe('0.45');
  });
  it('of a line that was dragged is that of the line, believed less closely', () => {
    const dragged = draggedTo(END.face, 1, { x: 304, y: 200 });
    // 4 across 80 are 2.86 degrees.
    expect(valueOf(END, dragged, false)).toEqual({ text: '2.86', expanded: '0.30' });
    expect(valueOf({ ...END, angleDeg: null, angleSd: null }, dragged, false)!.text).toBe('2.86');
    expect(draggedTo(END.face, 0, { x: 1, y: 2 })[1]).toEqual(END.face[1]);
  });
});

describe('a live picture', () => {
  it('is held still where two looks agree', () => {
    expect(isStill(null, reading())).toBe(false);
    expect(isStill(reading(), reading({ angleDeg: -0.47 }))).toBe(true);
    expect(isStill(reading(), reading({ angleDeg: -1.2 }))).toBe(false);
    expect(isStill(reading(), reading({ class: 'chip' }))).toBe(false);
    const moved = END.face.map((p) => ({ x: p.x + 40, y: p.y })) as unknown as CleavedEnd['face'];
    expect(isStill(reading(), reading({ face: moved }))).toBe(false);
    const none: CleaveReading = { ok: false, reason: 'no_fiber' };
    expect([isStill(none, reading()), isStill(reading(), none)]).toEqual([false, false]);
  });
  it('that cannot be measured says why, in a sentence', () => {
    for (const words of Object.values(REFUSAL_WORDS)) expect(words).toMatch(/^[A-Z].*\.$/);
  });
});

describe('the picture with what was found', () => {
  const shot: Shot = {
    picture: new Blob(),
    url: 'data:,',
    width: 640,
    height: 480,
    reading: reading(),
    source: 'file',
  };
  it('draws the lines in the picture’s own pixels, and moves an end of the line by the arrows', async () => {
    const other: CleavedEnd = { ...END, side: 'right' };
    const onDrag = vi.fn();
    const onChoose = vi.fn();
    const { page } = await openPage(MeasuredShot, {
      props: { shot, ends: [END, other], side: 'left', dragged: null, onDrag, onChoose },
    });
    expect(page.get('svg').attributes('viewBox')).toBe('0 0 640 480');
    expect(page.findAll('.handle')).toHaveLength(2);
    await page.get('[data-test=handle-1]').trigger('keydown', { key: 'ArrowRight' });
    await page.get('[data-test=handle-1]').trigger('keydown', { key: 'Enter' });
    expect(onDrag.mock.calls).toEqual([[1, { x: 301, y: 200 }]]);
    await page.findAll('svg g')[1]!.trigger('click');
    expect(onChoose.mock.calls).toEqual([['right']]);
  });
});

describe('the pictures of a piece', () => {
  it('stand with their values, without a question to the server', async () => {
    const server = new TestServer();
    const measured = [
      { id: id(5), text: '0.44', expanded: '0.12', unit: 'deg' },
      { id: id(6), text: '35.10', expanded: '0.22', unit: 'mm' },
    ];
    const { page } = await openPage(MeasuredPictures, {
      props: { classId: CLASS, attemptId: id(9), measured },
    });
    await settled();
    expect(page.get('[data-test=measured-picture]').text()).toContain('0.44° ± 0.12°');
    expect(page.text()).toContain('35.10 mm ± 0.22 mm');
    expect(page.get('a').attributes('href')).toContain(`/measured/${id(5)}/picture`);
    expect(server.of(ROUTES.measuredPictures)).toEqual([]);
  });
});
