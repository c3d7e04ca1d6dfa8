import type { MethodSheet } from '@clear-mark/core';
import { care, criteriaOf, step } from '../../build.ts';
import { FIBER_CAUTIONS } from '../../common/cautions.ts';
import { benchReady, clearUp } from '../../common/steps.ts';
import { commonPractice } from '../../sources.ts';
import { method } from '../method.ts';

function scribeAndPull(): MethodSheet {
  const c = criteriaOf('scribe-pull');
  return method({
    name: 'scribe-pull',
    title: 'Cured connector scribed and the stub pulled',
    summary: 'One light stroke at the bead, a straight pull, and a look for glass broken below the surface.',
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
        'Clean and sharp; two edges: reverse it when one is damaged. Adhesive wiped off before it dries.',
        [
          c.check(
            'blade',
            'Blade clean, good edge',
            2,
            commonPractice('two edges, reversed when one is damaged'),
            'blade_dirty blade_blunt',
          ),
        ],
        [care('Cap the scribe when it lies on the bench.')],
      ),
      step(
        'scribe',
        'Scribed',
        'cleave',
        'connector',
        'Flat on the ferrule tip, bevel up; one light stroke, one side only, at the top of the bead where the fiber leaves it.',
        [
          c.check(
            'bevel-up',
            'Flat on the tip, bevel up',
            2,
            commonPractice('flat on the ferrule tip, bevel up'),
            'bevel_down',
          ),
          c.check(
            'one-light-stroke',
            'One light stroke, one side',
            5,
            commonPractice('too much pressure breaks the fiber or shatters it unevenly'),
            'scribed_twice scribed_hard',
            { critical: true },
          ),
          c.check(
            'at-bead',
            'Near where the fiber leaves the bead',
            3,
            commonPractice('at the top of the bead'),
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
        'Straight, no twist. It does not come: score the opposite side. A stub that snapped may be polished on; only the microscope tells after it.',
        [
          c.check(
            'straight',
            'Pulled straight, came off clean',
            5,
            commonPractice('straight, no twist'),
            'pulled_twisted stub_snapped',
          ),
          c.check(
            'offcut',
            'Offcut onto tape',
            3,
            commonPractice('offcut onto tape at once'),
            'offcut_loose',
          ),
        ],
      ),
      clearUp(c),
    ],
  });
}

export const SCRIBE_PULL: MethodSheet = scribeAndPull();
