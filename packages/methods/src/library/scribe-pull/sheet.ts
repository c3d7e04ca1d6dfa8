import type { MethodSheet } from '@clear-mark/core';
import { care, criteriaOf, step } from '../../build.ts';
import { FIBER_CAUTIONS } from '../../common/cautions.ts';
import { benchReady, clearUp } from '../../common/prepare-steps.ts';
import { commonPractice, house } from '../../sources.ts';
import { method } from '../method.ts';

function scribeAndPull(): MethodSheet {
  const c = criteriaOf('scribe-pull');
  return method({
    name: 'scribe-pull',
    title: 'Cured connector scribed and the stub pulled',
    summary:
      'Scored lightly where the glass leaves the tip, pulled straight. A second score on the opposite side is right when it will not come.',
    pieceKind: 'connector',
    things: ['bench', 'scope'],
    cautions: FIBER_CAUTIONS,
    steps: [
      benchReady(c),
      step(
        'blade',
        'Blade ready',
        'cleave',
        'bench',
        'Sapphire or carbide, clean and whole, else reversed.',
        [
          c.check(
            'blade',
            'Blade clean and whole',
            2,
            commonPractice('else reversed'),
            'blade_dirty blade_blunt',
            { sampled: true },
          ),
        ],
        [care('Cap the scribe when it lies on the bench.')],
      ),
      step(
        'scribe',
        'Scored',
        'cleave',
        'connector',
        'Flat on the ferrule tip, bevel up; one side scored near where the glass leaves the tip, lightly.',
        [
          c.check(
            'bevel-up',
            'Flat on the tip, bevel up',
            2,
            commonPractice('flat on the ferrule tip, bevel up'),
            'bevel_down',
            { sampled: true },
          ),
          c.check(
            'one-light-stroke',
            'Scored lightly on one side',
            5,
            commonPractice('lightly; the number of strokes is the house’s'),
            'scribed_hard',
          ),
          c.check(
            'at-bead',
            'Near where the glass leaves the tip',
            3,
            commonPractice('near where the glass leaves the tip'),
            'scribed_off',
          ),
        ],
        [],
        'scribe',
      ),
      step(
        'pull',
        'Pulled straight',
        'cleave',
        'connector',
        'Straight, untwisted. Will not come: opposite side scored. A stub that snapped is polished on; the scope decides.',
        [
          c.check(
            'straight',
            'Pulled straight, untwisted',
            5,
            commonPractice('straight, untwisted'),
            'pulled_twisted',
          ),
          c.check(
            'stub',
            'Stub came off whole',
            4,
            house('snapped: polish on, the scope decides'),
            'stub_snapped',
          ),
          c.check(
            'opposite',
            'Would not come: opposite side scored',
            2,
            commonPractice('opposite side scored'),
            'pulled_harder',
            { sampled: true },
          ),
          c.check(
            'offcut',
            'Stub to tape, adhesive off the blade',
            3,
            commonPractice('before it dries'),
            'offcut_loose blade_dirty',
          ),
        ],
      ),
      clearUp(c),
    ],
  });
}

export const SCRIBE_PULL: MethodSheet = scribeAndPull();
