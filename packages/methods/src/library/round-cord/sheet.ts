import type { MethodSheet } from '@clear-mark/core';
import { atLeast, care, criteriaOf, step } from '../../build.ts';
import { FIBER_CAUTIONS } from '../../common/cautions.ts';
import { around, bareGlass, benchReady, clearUp, kit, partsOn } from '../../common/steps.ts';
import { commonPractice } from '../../sources.ts';
import { method } from '../method.ts';

function roundCord(): MethodSheet {
  const c = criteriaOf('round-cord');
  return method({
    name: 'round-cord',
    title: 'Round 3 mm cord prepared for an adhesive ST-style connector',
    summary:
      'Jacket, yarn and buffer of a 3 mm cord to the marks of the card, ready for adhesive. A 4 mm cord has its own side of the card.',
    pieceKind: 'cord',
    strip: { jacketMm: 35, bufferMm: 20, cleaveMm: 20 },
    things: ['bench'],
    cautions: FIBER_CAUTIONS,
    steps: [
      benchReady(c),
      kit(
        c,
        'Gauge hole of the card tells the crimp sleeve: it follows the jacket’s diameter. Large boot for jacketed cord.',
      ),
      partsOn(
        c,
        'Boot, then crimp sleeve, narrow end first',
        'Boot, then crimp sleeve, narrow end first, slid well out of the way.',
      ),
      step(
        'mark',
        'Marked at 35 and 25 mm',
        'strip',
        'jacket',
        'Cable end on the card’s end line; marks at 35 and 25 mm, and compared with the card again after stripping.',
        [
          c.check(
            'marks',
            'Both marks made at the card, checked again',
            2,
            commonPractice('marks at 35 and 25 mm; if a mark moved while stripping, readjust'),
            'mark_off not_compared',
          ),
        ],
      ),
      step(
        'jacket',
        'Jacket off to 25, then to 35 mm',
        'strip',
        'jacket',
        'Off to 25 mm first, in two pieces. Yarn gathered, twisted and cut with the yarn shears. Then the jacket to 35 mm: the difference leaves the yarn’s length.',
        [
          c.measure(
            'jacket-length',
            'Jacket removed',
            4,
            'mm',
            around('35', '1'),
            commonPractice('35 mm in the end, 25 mm first'),
          ),
          c.count(
            'jacket-pieces',
            'Pieces the first 25 mm came off in',
            1,
            'pieces',
            atLeast('2', commonPractice('in two pieces')),
            commonPractice('jacket off in small pieces'),
          ),
          c.measure(
            'yarn-length',
            'Yarn left beyond the jacket',
            4,
            'mm',
            around('10', '1'),
            commonPractice('the difference of the two marks'),
            {
              hint: 'Too short: it does not reach the crimp post. Too long: it jams between housing and post.',
            },
          ),
          c.check(
            'jacket-edge',
            'Edge square, no nick in the buffer',
            4,
            commonPractice('no nick in the layer below'),
            'ragged_edge buffer_nicked',
          ),
          c.check(
            'yarn-cut',
            'Yarn twisted and cut clean with the yarn shears',
            2,
            commonPractice('ordinary scissors fray it'),
            'yarn_frayed wrong_shears',
          ),
        ],
        [care('Cut away from the hand; the yarn shears are kept for cable and yarn.')],
      ),
      ...bareGlass(c, { mm: '20', tolerance: '1', words: 'a mark at 20 mm for the buffer' }),
      clearUp(c),
    ],
  });
}

export const ROUND_CORD: MethodSheet = roundCord();
