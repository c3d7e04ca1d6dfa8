import type { MethodSheet } from '@clear-mark/core';
import { between, criteriaOf, level, step, stop } from '../../build.ts';
import { LIVE_FIBER_CAUTIONS } from '../../common/cautions.ts';
import { around, benchReady, kit, partsOn } from '../../common/prepare-steps.ts';
import { commonPractice, house } from '../../sources.ts';
import { method } from '../method.ts';
import { afterLock, THINGS } from '../prepolished-parts.ts';

const WINDOWS = [
  level('dark', 'No light', 'pass', 5, 'face-clean'),
  level('faint', 'Faint light', 'marginal_pass', 3, 'face-outer'),
  level('light', 'Excessive light at a window', 'fail', 0, 'face-core'),
];

function flatJig(): MethodSheet {
  const c = criteriaOf('flat-jig');
  return method({
    name: 'flat-jig',
    title: 'Pre-polished SC on flat 1.6 x 2 mm cable, assembly jig',
    summary:
      'Members through the back post, cut by the spacer, clicked in, cover closed, wedge pulled. The windows tell. Green is angled, blue flat.',
    pieceKind: 'connector',
    things: THINGS,
    cautions: LIVE_FIBER_CAUTIONS,
    steps: [
      benchReady(c),
      kit(c, 'SC for flat cable, screw cap, spacer, jig.'),
      partsOn(
        c,
        'Screw cap on, threads to the end',
        'Screw cap on first, threads facing the end to be terminated.',
      ),
      step(
        'members',
        'Cable split, members back',
        'strip',
        'jacket',
        'Marked at 55 mm. End split with cutters, the rest by hand, fiber hardly bent. Members folded back 180 degrees and cut to 5 mm; back post on the jacket, members through the tab gaps, tucked, cap to a positive stop.',
        [
          c.measure(
            'jacket-length',
            'Strip length (jacket)',
            4,
            'mm',
            around('55', '2'),
            commonPractice('55 mm marked'),
          ),
          c.measure(
            'member-length',
            'Strength-member length',
            3,
            'mm',
            around('5', '1'),
            commonPractice('cut to 5 mm'),
            { sampled: true },
          ),
          c.check(
            'tucked',
            'Members through the gaps, cap to a positive stop',
            4,
            commonPractice('tucked, cap to positive stop'),
            'member_not_held nut_loose',
          ),
        ],
      ),
      step(
        'strip',
        'Coating off by the spacer',
        'strip',
        'glass',
        'Into the spacer; the 250 µm coating off from its tip.',
        [
          c.check(
            'coating-gone',
            'No clear coating left on the glass',
            4,
            house('a fiber with its coating does not enter'),
            'coating_left',
            { critical: true },
          ),
        ],
      ),
      step(
        'integrity',
        'Bend check',
        'strip',
        'glass',
        'Out of the spacer, swept 30 degrees four ways; then wiped.',
        [
          c.check(
            'bend-check',
            'Out of the spacer, swept four ways, glass held',
            3,
            commonPractice('30 degrees four ways, before cleaning'),
            'not_bent glass_broke',
            { critical: true },
          ),
          c.check('wiped', 'Wiped after the bend check', 2, commonPractice('wiped after it'), 'not_cleaned', {
            sampled: true,
          }),
        ],
      ),
      step(
        'spacer-cleave',
        'Cleaved by the spacer',
        'cleave',
        'glass',
        'Back in, no gap, fiber straight, else flip or reseat; bar at pre-cleave, lid shut, slide; spacer off.',
        [
          c.check(
            'spacer-seated',
            'No gap at the spacer, fiber straight',
            4,
            commonPractice('no gap, fiber straight'),
            'spacer_gap',
          ),
          c.check(
            'one-stroke',
            'Single smooth cleave, end face untouched',
            2,
            commonPractice('bar at pre-cleave, lid shut, slide'),
            'two_strokes face_brushed',
            { sampled: true },
          ),
          c.check(
            'offcut',
            'Offcut in the container',
            2,
            commonPractice('offcuts are put away at once'),
            'offcut_loose',
            { sampled: true },
          ),
        ],
      ),
      step(
        'jig',
        'In the jig',
        'terminate',
        'connector',
        'Connector in from above, to the arrow, no gap; fiber against the lines. Tip in the cone, post in the corners, slowly until the latches click: slight bow. A large bow earlier: out, again. Cover two clicks; wedge pulled: this locks.',
        [
          c.check(
            'lines',
            'Length against the jig’s lines',
            2,
            commonPractice('fiber against the jig’s lines'),
            'line_off',
            { sampled: true },
          ),
          c.check(
            'latches',
            'Latches clicked with a slight bow',
            6,
            commonPractice('slight bow at the click; a large bow earlier: again'),
            'no_bow bow_early latch_open',
            { critical: true },
          ),
          c.count(
            'clicks',
            'Clicks of the cover',
            2,
            'clicks',
            between('2', '2', commonPractice('two clicks')),
            commonPractice('cover two clicks'),
            { sampled: true },
          ),
          c.check(
            'wedge-pulled',
            'Wedge pulled: locked',
            5,
            commonPractice('wedge pulled, this locks'),
            'wedge_left',
            { critical: true },
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
        'Locator, 3 dB attenuator, launch cord (flat at the locator, as the connector at the far end), adapter cut open. Excessive light at either window: done again.',
        [
          c.grade(
            'window-light',
            'Light at the windows',
            5,
            WINDOWS,
            commonPractice(
              'no light passes, excessive light fails; faint light is the instructor’s call (house)',
            ),
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
