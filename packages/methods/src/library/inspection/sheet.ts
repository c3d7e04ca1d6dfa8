import type { MethodSheet } from '@clear-mark/core';
import { atLeast, atMost, criteriaOf, step, stop } from '../../build.ts';
import { CHEMICALS, DEFER, LIGHT } from '../../common/cautions.ts';
import { END_FACES } from '../../common/test-steps.ts';
import { commonPractice, commonPracticeFromMemory, house, standardFromMemory } from '../../sources.ts';
import { method } from '../method.ts';

function inspection(mpo: boolean): MethodSheet {
  const c = criteriaOf(mpo ? 'inspect-mpo' : 'inspect-single');
  return method({
    name: mpo ? 'inspect-mpo' : 'inspect-single',
    title: mpo ? 'Inspection and cleaning routine, MPO' : 'Inspection and cleaning routine, single fiber',
    summary: mpo
      ? 'The whole row is scanned; pins, type and key are checked at the same time.'
      : 'Inspect, clean, inspect again, then connect. Nothing is mated unseen.',
    pieceKind: 'connector',
    things: ['bench', 'scope'],
    cautions: [LIGHT, CHEMICALS, DEFER],
    steps: [
      step(
        'dark',
        'Source off',
        'inspect',
        'connector',
        'Both ends off source and meter.',
        [
          c.check(
            'dark-fiber',
            'No light verified before microscope',
            4,
            commonPractice('a scope never goes on a connector that could be live'),
            'live_fiber_scoped',
            { stop: true },
          ),
        ],
        [stop('No microscope on a live fiber.')],
      ),
      step(
        'adapter',
        'Right adapter and magnification',
        'inspect',
        'instruments',
        mpo
          ? 'Scanning adapter for MPO; angled ends need an angled one.'
          : '2.5 mm for SC, ST-style, FC; 1.25 mm for LC; an angled adapter for angled ends. 100x is too little to judge a polish.',
        [
          c.check(
            'adapter',
            'Adapter fits the connector',
            3,
            commonPractice('universal 2.5 mm, 1.25 mm for LC, scanning for MPO'),
            'wrong_adapter',
            { sampled: true },
          ),
          c.count(
            'magnification',
            'Magnification',
            2,
            'times',
            atLeast('200', commonPractice('200x is common, 400x shows it all')),
            commonPractice('200x at least, 400x to grade a polish'),
          ),
          ...(mpo
            ? [
                c.check(
                  'row',
                  'Whole row scanned',
                  4,
                  commonPractice('dust at one side lifts the other'),
                  'row_not_scanned',
                ),
                c.check(
                  'pins-key',
                  'Pins, type and key checked',
                  3,
                  commonPractice('checked at the same time'),
                  'pins_not_checked',
                ),
              ]
            : []),
        ],
      ),
      step(
        'first-look',
        'Inspected first',
        'inspect',
        'connector',
        'An unneeded clean can dirty a clean face.',
        [
          c.check(
            'looked-first',
            'Looked before cleaning',
            4,
            commonPractice('inspect first, clean if needed'),
            'cleaned_unseen',
          ),
        ],
      ),
      step(
        'clean',
        'Cleaned if dirty',
        'inspect',
        'connector',
        mpo
          ? 'A cleaner that reaches between the pins; dry first, then wet and dried at once.'
          : 'Dry first (push cleaner or lint-free wipe), inspect; if it stays: wet with alcohol, then dry at once; inspect.',
        [
          c.check(
            'dry-first',
            'Dry first, wet only if it stays',
            3,
            commonPracticeFromMemory('dry clean first'),
            'wet_first',
            { sampled: true },
          ),
          ...(mpo
            ? [
                c.check(
                  'whole-ferrule',
                  'Whole ferrule cleaned, between the pins as well',
                  3,
                  commonPractice('a cleaner that reaches between the pins'),
                  'ferrule_missed',
                  { sampled: true },
                ),
              ]
            : []),
          c.check(
            'dried',
            'Dried at once after alcohol',
            3,
            commonPractice('alcohol left to dry leaves rings'),
            'alcohol_left',
            { sampled: true },
          ),
          c.count(
            'cleans',
            'Cleanings until it was clean',
            2,
            'cleanings',
            atMost('3', house('three cleanings; what stays then is damage')),
            house('loose dirt is cleaned and looked at again'),
            { trainee: true },
          ),
        ],
      ),
      step(
        'again',
        'Inspected again and judged',
        'inspect',
        'connector',
        'Grade after cleaning: all loose dirt that can be cleaned away should be.',
        [
          c.check(
            'looked-again',
            'Inspected again',
            4,
            commonPractice('inspect, clean, inspect again'),
            'not_inspected_again',
          ),
          c.grade(
            'end-face',
            mpo ? 'Worst end face of the row' : 'End-face condition before mating',
            3,
            END_FACES.map((l) => ({ ...l, points: Math.min(3, l.points) })),
            standardFromMemory('IEC 61300-3-35'),
          ),
          c.call(
            'inspect-call',
            'Pass/fail call agrees with reference',
            5,
            'end-face',
            commonPractice('calling a bad face good is worse than calling a good one bad'),
            { critical: true, required: true },
          ),
        ],
      ),
      step(
        'cap',
        'Mated now or capped',
        'inspect',
        'connector',
        'Cap back on if it is not mated now; caps are dirty too, so inspect again later.',
        [
          c.check(
            'capped',
            'Mated or capped',
            2,
            commonPractice('cap goes back on if it is not mated now'),
            'cap_off',
            { sampled: true },
          ),
        ],
      ),
    ],
  });
}

export const INSPECTION: readonly MethodSheet[] = [inspection(false), inspection(true)];
