import type { MethodSheet } from '@clear-mark/core';
import { atLeast, care, criteriaOf, step } from '../../build.ts';
import { FIBER_CAUTIONS } from '../../common/cautions.ts';
import { around, benchReady, clearUp } from '../../common/prepare-steps.ts';
import { commonPractice, house } from '../../sources.ts';
import { method } from '../method.ts';
import { cordParts, STRIP } from '../adhesive-parts.ts';

function roundCord(): MethodSheet {
  const c = criteriaOf('round-cord');
  return method({
    name: 'round-cord',
    title: 'Round 3 mm cord prepared for an ST-style connector with activator',
    summary:
      'Jacket and yarn of a 3 mm cord to the marks of the card, fiber marked. A 4 mm cord has its own side of the card.',
    pieceKind: 'cord',
    strip: STRIP,
    things: ['bench'],
    cautions: FIBER_CAUTIONS,
    steps: [
      benchReady(c),
      ...cordParts(c),
      step(
        'mark',
        'Marked at 35 and 25 mm',
        'strip',
        'jacket',
        'Cord end on the card’s end line; jacket marked at 35 and 25 mm.',
        [
          c.check(
            'marks',
            'Both marks at the card',
            2,
            commonPractice('jacket marked at 35 and 25 mm'),
            'mark_off not_compared',
            { sampled: true },
          ),
        ],
      ),
      step(
        'jacket',
        'Jacket to 25, yarn, jacket to 35 mm',
        'strip',
        'jacket',
        'Off to 25 in small bits, two here. Yarn gathered, twisted, cut away as far as possible. Then the jacket to 35: the difference leaves the yarn’s length.',
        [
          c.measure(
            'jacket-length',
            'Strip length (jacket)',
            4,
            'mm',
            around('35', '1'),
            commonPractice('35 mm in the end, 25 mm first'),
          ),
          c.measure(
            'yarn-length',
            'Yarn left beyond the jacket',
            4,
            'mm',
            around('10', '1'),
            house('35 less 25: by arithmetic'),
            {
              critical: true,
              hint: 'None left: the jacket was at 35 before the yarn was cut, and nothing can be crimped.',
            },
          ),
          c.count(
            'jacket-pieces',
            'Bits of the first 25 mm',
            1,
            'bits',
            atLeast('2', commonPractice('small bits')),
            commonPractice('small bits, two here'),
            { trainee: true },
          ),
          c.check(
            'jacket-edge',
            'Jacket edge square, no nick in the buffer',
            4,
            commonPractice('no nick in the layer below'),
            'ragged_edge buffer_nicked',
            { sampled: true },
          ),
          c.check(
            'yarn-cut',
            'Yarn twisted, cut clean with the shears kept for cord',
            2,
            commonPractice('ordinary scissors fray it'),
            'yarn_frayed wrong_shears',
            { sampled: true },
          ),
        ],
        [care('Cut away from the hand.')],
      ),
      step(
        'fiber-mark',
        'Fiber marked at 20 mm',
        'strip',
        'buffer',
        'Fiber end on the card’s line (the card also verifies the strip); marked at 20 mm.',
        [
          c.check(
            'fiber-mark',
            'Strip compared with the card, fiber marked at 20 mm',
            3,
            commonPractice('marked at 20 mm'),
            'mark_off not_compared',
          ),
          c.check(
            'fiber-whole',
            'Fiber and buffer whole',
            4,
            house('no nick in the layer below'),
            'buffer_nicked fiber_cut',
            { critical: true },
          ),
        ],
      ),
      clearUp(c),
    ],
  });
}

export const ROUND_CORD: MethodSheet = roundCord();
