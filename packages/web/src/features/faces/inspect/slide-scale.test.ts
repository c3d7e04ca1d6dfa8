// @vitest-environment happy-dom
import { beforeEach, describe, expect, it } from 'vitest';
import { freshPages, openPage } from '../../../../test/page.ts';
import FaceTools from './FaceTools.vue';
import SlideRuler from './SlideRuler.vue';
import { differenceFrom, useSlideScale } from './use-slide-scale.ts';

freshPages();
beforeEach(() => useSlideScale().keep(null));
const scale = { umPerPx: 0.4, uncertainty: 0.0004, takenAt: '2026-03-02T09:00:00.000Z' };

describe('the scale of a calibration slide', () => {
  it('is kept on the device until it is taken away', () => {
    useSlideScale().keep(scale);
    expect(useSlideScale().scale.value).toEqual(scale);
    expect(JSON.parse(localStorage.getItem('face-slide-scale')!)).toEqual(scale);
    useSlideScale().keep(null);
    expect(useSlideScale().scale.value).toBeNull();
  });

  it.each([
    [0.4, null],
    [0.393, null],
    [0.36, 1 / 9],
    [0.5, -0.2],
  ])('against a cladding of %d µm a pixel', (umPerPx, difference) => {
    const found = differenceFrom(scale, umPerPx);
    if (difference === null) expect(found).toBeNull();
    else expect(found).toBeCloseTo(difference, 9);
    expect(differenceFrom(null, umPerPx)).toBeNull();
  });

  it('gives a ruler to a picture without a grade, and to none where it is not there', async () => {
    const props = { name: 'wall.png', tool: 'look' };
    const without = await openPage(SlideRuler, { props });
    expect(without.page.text()).toBe('wall.png');
    useSlideScale().keep(scale);
    const { page, press } = await openPage(SlideRuler, { props });
    expect(page.text()).toContain('0.400 µm a pixel by the calibration slide.');
    await press('Ruler');
    expect(page.emitted('update:tool')).toEqual([['rule']]);
  });

  it('that differs from the cladding is told beside the picture', async () => {
    const tools = (umPerPx: number) =>
      openPage(FaceTools, {
        props: {
          name: 'pit.png',
          face: { umPerPx, core: { class: 'single_mode' } },
          zoomed: false,
          tool: 'look',
          flattened: false,
          loupe: false,
          width: 1,
        },
      });
    expect((await tools(0.36)).page.find('[data-test=slide-differs]').exists()).toBe(false);
    useSlideScale().keep(scale);
    expect((await tools(0.36)).page.get('[data-test=slide-differs]').text()).toContain('11.1 % larger');
    expect((await tools(0.4)).page.find('[data-test=slide-differs]').exists()).toBe(false);
  });
});
