// @vitest-environment happy-dom
import { measureSplice, type MeasuredSplice, SPLICE_CLASSES, type SpliceReading } from '@clear-mark/core';
import { SHIPPED_METHODS } from '@clear-mark/methods';
import { drawSplice, randomSpliceScene, rngFrom } from '@clear-mark/sim';
import { describe, expect, it, vi } from 'vitest';
import { freshPages, openPage } from '../../../test/page.ts';
import type { Shot } from './keep-measured.ts';
import { figuresOf, isJointStill, levelOf, lossOf } from './splice.model.ts';
import SpliceShot from './SpliceShot.vue';

freshPages();

const JOINT: MeasuredSplice = {
  ok: true,
  umPerPx: 0.8,
  umPerPxSd: 0.004,
  class: 'offset',
  offsetUm: { value: -4.2, sd: 0.1 },
  coreOffsetUm: { value: -4, sd: 0.2 },
  angleDeg: { value: 0.2, sd: 0.03 },
  diameterChangeUm: { value: 0.4, sd: 0.25 },
  bubbleUm: null,
  lossDb: { value: 3.28, sd: 0.2 },
  views: [
    {
      joint: { x: 320, y: 240 },
      axes: [
        [
          { x: 100, y: 240 },
          { x: 320, y: 238 },
        ],
        [
          { x: 320, y: 242 },
          { x: 540, y: 240 },
        ],
      ],
      edges: [
        [
          { x: 100, y: 160 },
          { x: 540, y: 160 },
        ],
        [
          { x: 100, y: 320 },
          { x: 540, y: 320 },
        ],
      ],
    },
  ],
};
const JOINTS = SHIPPED_METHODS.find((m) => m.id.endsWith('/single-fusion'))!
  .steps.flatMap((s) => s.criteria)
  .find((c) => c.id.endsWith('/joint'))!;

describe('a joint in a picture', () => {
  it('each class has its level in the shipped scale, and a scale without it leaves the choice to somebody', () => {
    const levels = JOINTS.kind === 'grade' ? JOINTS.levels : [];
    const found = SPLICE_CLASSES.map((c) => levelOf({ ...JOINT, class: c }, levels));
    expect(found).toEqual(['clean', 'offset', 'offset', 'neck', 'neck', 'bubble', 'line']);
    expect(levelOf(JOINT, [{ id: 'good' }, { id: 'bad' }])).toBeNull();
  });
  it('its loss has twice its uncertainty, and no less than a hundredth', () => {
    expect(lossOf(JOINT)).toEqual({ text: '3.28', expanded: '0.40' });
    expect(lossOf({ ...JOINT, lossDb: { value: 0.002, sd: 0.0001 } })).toEqual({
      text: '0.00',
      expanded: '0.01',
    });
    expect(lossOf({ ...JOINT, lossDb: { value: 31, sd: 9 } })).toEqual({ text: '31.00', expanded: '9.99' });
  });
  it('its figures say sizes without a sign, and leave out what is not seen', () => {
    expect(figuresOf(JOINT)).toEqual([
      'claddings out of line 4.2 ± 0.2 µm',
      'cores 4.0 ± 0.4 µm',
      'bent 0.20 ± 0.06°',
      'diameter 0.4 ± 0.5 µm',
    ]);
    const bubble = figuresOf({
      ...JOINT,
      class: 'bubble',
      coreOffsetUm: null,
      bubbleUm: { value: 14, sd: 1 },
    });
    const spot = { ...JOINT, bubbleUm: { value: 14, sd: 1 } };
    expect(figuresOf(spot)).toEqual(figuresOf(JOINT));
    expect(bubble).not.toContainEqual(expect.stringContaining('cores'));
    expect(bubble).toContain('bubble 14.0 ± 2.0 µm');
  });
  it('is held still once two looks agree', () => {
    const moved = { ...JOINT, views: [{ ...JOINT.views[0]!, joint: { x: 340, y: 240 } }] };
    const refused: SpliceReading = { ok: false, reason: 'gap' };
    expect(isJointStill(JOINT, JOINT)).toBe(true);
    expect(isJointStill(JOINT, moved)).toBe(false);
    expect(isJointStill(JOINT, { ...JOINT, class: 'good' })).toBe(false);
    expect(isJointStill(JOINT, { ...JOINT, offsetUm: { value: -4.8, sd: 0.1 } })).toBe(false);
    expect(isJointStill(null, JOINT)).toBe(false);
    expect(isJointStill(refused, refused)).toBe(false);
  });
  it('a place that somebody sets is where both axes are compared', () => {
    const rng = rngFrom(5);
    const view = drawSplice(randomSpliceScene(rng, { look: 'offset' }), rng);
    const found = measureSplice(view);
    if (!found.ok) throw new Error(found.reason);
    const own = found.views[0]!.joint.x;
    const again = measureSplice(view, { jointAt: own + 3 });
    expect(again.ok && again.views[0]!.joint.x).toBeCloseTo(own + 3, 0);
    expect(again.ok && Math.abs(again.offsetUm.value)).toBeCloseTo(Math.abs(found.offsetUm.value), 0);
  });
});

describe('the drawing of a joint', () => {
  const shot: Shot<SpliceReading> = {
    picture: new Blob(),
    url: 'blob:x',
    width: 640,
    height: 480,
    source: 'file',
    reading: JOINT,
  };
  it('shows edges, axes and the joint of each view, which the arrows move a column', async () => {
    const onDrag = vi.fn();
    const onSettle = vi.fn();
    const two = { ...JOINT, views: [JOINT.views[0]!, JOINT.views[0]!] };
    const { page } = await openPage(SpliceShot, {
      props: { shot, joint: two, dragged: null, onDrag, onSettle },
    });
    expect(page.findAll('.edge')).toHaveLength(4);
    expect(page.findAll('.axis')).toHaveLength(4);
    await page.get('[data-test=joint-1]').trigger('keydown', { key: 'ArrowRight' });
    await page.get('[data-test=joint-1]').trigger('keydown', { key: 'ArrowUp' });
    expect(onDrag.mock.calls).toEqual([[321]]);
    expect(onSettle).toHaveBeenCalledTimes(1);
  });
  it('a place that was set stands there, and nothing is drawn where there is no joint', async () => {
    const { page } = await openPage(SpliceShot, { props: { shot, joint: JOINT, dragged: 300 } });
    expect(page.get('.joint').attributes('x1')).toBe('300');
    const none = await openPage(SpliceShot, { props: { shot, joint: null, dragged: null } });
    expect(none.page.findAll('line, polyline, circle')).toHaveLength(0);
  });
});
