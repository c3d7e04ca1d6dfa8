import type { MethodSheet, Step } from '@clear-mark/core';
import { atLeast, atMost, between, care, criteriaOf, step, type Criteria } from '../../build.ts';
import {
  bareGlass,
  benchReady,
  clearUp,
  inspecting,
  kit,
  partsOn,
  singleCordLoss,
} from '../../common/steps.ts';
import { commonPractice } from '../../sources.ts';
import { method } from '../method.ts';
import { scribing, fullPolish, cleanBetween, crimping, STRIP, CAUTIONS } from '../adhesive-parts.ts';

const twoFilms = (c: Criteria): Step[] => [
  step(
    'coarse',
    'First film, 5 µm',
    'terminate',
    'connector',
    'Flat on the pad, figure of eight, until the adhesive is gone.',
    [
      c.check(
        'coarse',
        'Adhesive gone, not polished on',
        4,
        commonPractice('over-polishing and too much pressure are the common faults'),
        'over_polished adhesive_left',
      ),
    ],
    [],
    'figure-eight',
  ),
  cleanBetween(c, 'clean-1', 'Ferrule and puck cleaned after 5 µm'),
  step(
    'fine',
    'Second film, 0.05 µm',
    'terminate',
    'connector',
    'Light pressure; a two-film kit goes from 5 µm straight to 0.05 µm.',
    [
      c.count(
        'strokes-final',
        'Strokes on the finishing film',
        4,
        'strokes',
        between('25', '35', commonPractice('25 to 35 strokes')),
        commonPractice('25 to 35 strokes, light pressure'),
      ),
      c.check(
        'fresh-section',
        'Fresh section of the finishing film',
        3,
        commonPractice('each section is used once'),
        'section_reused',
      ),
    ],
  ),
];

function acrylic(activator: boolean): MethodSheet {
  const name = activator ? 'acrylic-activator' : 'acrylic-primer';
  const c = criteriaOf(name);
  const setting = activator
    ? c.timed(
        'set-time',
        'Left alone until set',
        4,
        atLeast('10', commonPractice('about 10 s with the activator')),
        commonPractice('the activator variety cures in about 10 s'),
      )
    : c.timed(
        'set-time',
        'Left alone until set',
        4,
        atLeast('30', commonPractice('at least 30 s')),
        commonPractice('at least 30 s before going on'),
      );
  return method({
    name,
    title: activator
      ? 'Cold-cured acrylic with activator, two films'
      : 'Cold-cured acrylic with primer, full polish',
    summary: activator
      ? 'Field connector with the activator variety and a two-film kit: 5 µm straight to 0.05 µm.'
      : 'Field connector: primer on the fiber, adhesive in the connector, 10 to 15 s to get home, then the full polishing sequence.',
    pieceKind: 'connector',
    strip: STRIP,
    things: ['bench', 'batch', 'film', 'scope', 'instrument', 'cord'],
    cautions: CAUTIONS,
    steps: [
      benchReady(c),
      kit(
        c,
        'Adhesive and primer in date, capped, stored within their temperatures. Sleeve by the gauge, boot for the cord.',
      ),
      partsOn(
        c,
        'Boot, then crimp sleeve, narrow end first',
        'Boot, then crimp sleeve, narrow end first, out of the way.',
      ),
      ...bareGlass(c, { mm: '20', tolerance: '1', words: 'a mark at 20 mm for the buffer' }),
      step(
        'prime',
        activator ? 'Activator on the fiber' : 'Primed',
        'terminate',
        'glass',
        'Dip the bare fiber and some buffer down to the mark on the bottle, without touching its bottom; rest it in a protected place; cap the bottle. Where primer follows, a dry wipe alone before it.',
        [
          c.check(
            'dipped',
            'Dipped to the mark, bottom not touched',
            4,
            commonPractice('down to the mark, without touching the bottom'),
            'dip_short bottom_touched',
          ),
          c.check('capped', 'Bottle capped again', 2, commonPractice('cap the bottle'), 'bottle_open'),
        ],
        [care('Primer and adhesive: ventilate, keep from eyes and skin.')],
      ),
      step(
        'inject',
        'Adhesive in',
        'terminate',
        'connector',
        'Syringe tip seated, until a small dot shows at the ferrule tip, and a little at the back for the buffer. Overfilled it flows back.',
        [
          c.check(
            'dot',
            'Small dot at the tip, a little at the back, not overfilled',
            4,
            commonPractice('until a small dot shows'),
            'no_dot overfilled',
          ),
        ],
      ),
      step(
        'insert',
        'Fiber in to the stop',
        'terminate',
        'connector',
        'Within 10 to 15 s of first contact: it starts curing. Rotate gently if it catches; do not force it between inner and outer body.',
        [
          c.timed(
            'insertion',
            'First contact to the stop',
            5,
            atMost('15', commonPractice('within 10 to 15 s')),
            commonPractice('it starts curing at first contact'),
            { critical: true, hint: 'Start at first contact, stop when it is home.' },
          ),
          c.check(
            'not-forced',
            'Rotated, not forced',
            3,
            commonPractice('rotate gently if it catches'),
            'forced_in',
          ),
          setting,
        ],
      ),
      crimping(c, 'First crimp holds the yarn between body and ring, the second grips the jacket.'),
      scribing(c),
      ...(activator ? twoFilms(c) : fullPolish(c)),
      inspecting(c),
      ...singleCordLoss(c),
      clearUp(c),
    ],
  });
}

export const ACRYLIC: readonly MethodSheet[] = [acrylic(false), acrylic(true)];
