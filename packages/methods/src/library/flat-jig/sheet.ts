import type { MethodSheet } from '@clear-mark/core';
import { between, criteriaOf, step, stop } from '../../build.ts';
import { around, bareGlass, benchReady, kit, partsOn } from '../../common/steps.ts';
import { commonPractice } from '../../sources.ts';
import { method } from '../method.ts';
import { THINGS, CAUTIONS, afterLock } from '../prepolished-parts.ts';

function flatJig(): MethodSheet {
  const c = criteriaOf('flat-jig');
  return method({
    name: 'flat-jig',
    title: 'Pre-polished SC on flat 1.6 x 2 mm cable, assembly jig',
    summary:
      'Members through the back post, cut by the spacer, clicked in, cover closed, wedge pulled; the windows tell.',
    pieceKind: 'connector',
    things: THINGS,
    cautions: CAUTIONS,
    steps: [
      benchReady(c),
      kit(c, 'SC for flat cable, screw cap, jig with its spacer.'),
      partsOn(
        c,
        'Screw cap on, threads to the end',
        'Screw cap on first, threads facing the end to be terminated.',
      ),
      step(
        'members',
        'Jacket and members',
        'strip',
        'jacket',
        '55 mm of jacket off; members folded back 180 degrees and cut to 5 mm.',
        [
          c.measure(
            'jacket-length',
            'Jacket removed',
            4,
            'mm',
            around('55', '2'),
            commonPractice('55 mm for flat 1.6 x 2 mm cable'),
          ),
          c.measure(
            'member-length',
            'Members left',
            3,
            'mm',
            around('5', '1'),
            commonPractice('folded back and cut to 5 mm'),
          ),
        ],
      ),
      step(
        'post',
        'Members through the back post',
        'terminate',
        'connector',
        'Through the gaps, tucked, cap screwed to a positive stop.',
        [
          c.check(
            'tucked',
            'Members through the gaps, cap to a positive stop',
            4,
            commonPractice('tucked, cap screwed to a positive stop'),
            'member_not_held nut_loose',
          ),
        ],
      ),
      ...bareGlass(c, null),
      step(
        'spacer-cleave',
        'Bend check, clean, cleave by the spacer',
        'cleave',
        'glass',
        'Strip with the cable in the spacer, out for the bend check, clean, back in, cleave. No gap between spacer and cleaver, fiber straight.',
        [
          c.check(
            'bend-check',
            'Out of the spacer for the bend check, cleaned after',
            3,
            commonPractice('bend check, then cleaning'),
            'not_bent not_cleaned',
          ),
          c.check(
            'spacer-seated',
            'No gap between spacer and cleaver, fiber straight',
            4,
            commonPractice('flip or reseat the cable until it lies straight'),
            'spacer_gap',
          ),
          c.check(
            'not-wiped',
            'Not wiped after the cleave',
            3,
            commonPractice('wiping leaves debris on the face'),
            'wiped_after_cleave',
          ),
        ],
      ),
      step(
        'jig',
        'In the jig',
        'terminate',
        'connector',
        'Connector in from the top, to the arrow, no gap. Click into the side latches, cover closed (two clicks), wedge pulled. A slight bow at the click is right, a large one before it: stop and try again.',
        [
          c.check(
            'latches',
            'Clicked into the side latches with a slight bow',
            6,
            commonPractice('slight bow at the click is right'),
            'no_bow bow_early latch_open',
            { critical: true },
          ),
          c.count(
            'clicks',
            'Clicks of the cover',
            2,
            'clicks',
            between('2', '2', commonPractice('two clicks')),
            commonPractice('close cover, two clicks'),
          ),
          c.check(
            'lines',
            'Length against the jig’s lines',
            2,
            commonPractice('length against the jig’s lines'),
            'line_off',
          ),
        ],
        [],
        'bow',
      ),
      step(
        'windows',
        'Windows checked',
        'terminate',
        'connector',
        'Red light, weakened by 3 dB, through a launch cord whose polish matches, in an adapter cut open over the windows.',
        [
          c.check(
            'windows-dark',
            'No light at the windows',
            5,
            commonPractice('no light passes, clear light fails; faint light is the instructor’s call'),
            'light_at_window',
            { critical: true },
          ),
        ],
        [stop('The red check light is a laser: look at the windows from the side, never into the ferrule.')],
        'windows',
      ),
      ...afterLock(c),
    ],
  });
}

export const FLAT_JIG: MethodSheet = flatJig();
