import { DIRECTIONS, type MethodSheet } from '@clear-mark/core';
import { atMost, care, criteriaOf, step, stop } from '../../build.ts';
import { ARC, BLADES, CHEMICALS, DEFER, GLASS, LIGHT } from '../../common/cautions.ts';
import { bareGlass, benchReady, CLEAVE_FACES, cleaving, clearUp, partsOn } from '../../common/steps.ts';
import { commonPractice, commonPracticeFromMemory, house } from '../../sources.ts';
import { method } from '../method.ts';
import { JOINTS } from '../splicing-parts.ts';

const CAUTIONS = [GLASS, LIGHT, ARC, CHEMICALS, BLADES, DEFER];

function singleFusion(): MethodSheet {
  const c = criteriaOf('single-fusion');
  const angle = (name: string, label: string) =>
    c.measure(
      name,
      label,
      4,
      'deg',
      {
        upper: { value: '1.0', source: commonPractice('1 degree or less each side; 0.5 is good work') },
        target: '0',
      },
      commonPractice('1 degree or less each side'),
      {
        skill: 'cleave',
        critical: true,
        uncertainty: { value: '0.1', source: house('the splicer’s reading of the angle') },
      },
    );
  return method({
    name: 'single-fusion',
    title: 'Single fusion splice, tight-buffered single-mode',
    summary: 'Sleeve first, both sides stripped, cleaned and cleaved, fused, proof-tested and protected.',
    pieceKind: 'splice',
    things: ['bench', 'splicer', 'cleaver'],
    cautions: CAUTIONS,
    steps: [
      benchReady(c),
      partsOn(
        c,
        'Heat-shrink sleeve on one fiber',
        'Heat-shrink sleeve on one fiber first: it cannot go on afterwards.',
      ),
      step(
        'splicer',
        'Splicer ready',
        'splice',
        'instruments',
        'Start-up finished, splice program for the fiber (an automatic mode recognises it), heater program set to the sleeve’s length: 40, 45 or 60 mm.',
        [
          c.check(
            'program',
            'Splice program for this fiber',
            3,
            commonPractice('single-mode, or the automatic mode'),
            'wrong_program',
          ),
          c.check(
            'heater',
            'Heater program set to the sleeve’s length',
            4,
            commonPractice('a machine left on its usual 45 or 60 with a 40 mm sleeve is the classic slip'),
            'heater_wrong',
          ),
        ],
      ),
      ...bareGlass(c, null),
      ...cleaving(c, {
        lowerMm: '12.5',
        upperMm: '13.5',
        targetMm: '13',
        lengthWords: 'buffer edge at 13 mm',
        angleDeg: '1.0',
        inspected: false,
      }),
      step(
        'lay',
        'Both sides laid in',
        'splice',
        'glass',
        'Tip close to the electrodes but not past them, touching nothing. Clamp. Wind cover down.',
        [
          c.check(
            'laid',
            'Tips close to the electrodes, touching nothing',
            4,
            commonPractice('close to the electrodes but not past them'),
            'tip_past tip_touched',
          ),
          angle('angle-left', 'Cleave angle, left'),
          angle('angle-right', 'Cleave angle, right'),
          c.grade(
            'gap-picture',
            'Faces in the gap picture',
            3,
            CLEAVE_FACES.map((l) => ({ ...l, points: Math.min(3, l.points) })),
            commonPractice('the splicer shows gap, angles and faces before it fires'),
            { skill: 'cleave' },
          ),
          c.check(
            'last-look',
            'Gap picture looked at before firing',
            3,
            commonPractice('last chance to reject; a bad angle is cleaved again, not spliced'),
            'fired_unseen',
          ),
        ],
      ),
      step(
        'fire',
        'Fired',
        'splice',
        'glass',
        'A short pre-fuse burns dust off, then the fibers are pushed together. No bubble, line, neck or bulge; cores in line.',
        [
          c.grade(
            'joint',
            'Picture of the joint',
            6,
            JOINTS,
            commonPractice('no bubble, no line, no neck or bulge, cores in line'),
            { critical: true },
          ),
          c.measure(
            'estimate',
            'Estimated loss',
            6,
            'dB',
            {
              upper: {
                value: '0.10',
                exclusive: true,
                source: house('0.05 or less is good; 0.10 and the trainee redoes it'),
              },
              target: '0',
            },
            house('an estimate from the picture, not a measurement'),
            { critical: true },
          ),
          c.count(
            're-arcs',
            'Re-arcs',
            2,
            're-arcs',
            atMost('1', house('none or one')),
            house('none or one'),
          ),
        ],
        [stop('No opening during the arc.')],
      ),
      step('proof', 'Proof test', 'splice', 'glass', 'Wait for it before opening the holders.', [
        c.check(
          'proof',
          'Proof test waited for and held',
          4,
          commonPracticeFromMemory('about 2 N'),
          'proof_skipped broke_in_proof',
        ),
      ]),
      step(
        'protect',
        'Protected',
        'splice',
        'glass',
        'Sleeve slid until the joint is in its middle, in the heater to the end of its program, then to the cooling tray.',
        [
          c.measure(
            'overlap',
            'Least overlap of the sleeve over the buffer',
            4,
            'mm',
            {
              lower: {
                value: '7',
                source: house(
                  'with 13 mm bare each side and a 40 mm sleeve 7 mm is what there is; 10 mm with a 60 mm sleeve',
                ),
              },
            },
            house('overlaps the buffer on both sides'),
          ),
          c.check(
            'centred',
            'Joint in the middle, no bubble in the sleeve',
            3,
            house('joint centred, no bubble'),
            'sleeve_off sleeve_bubble',
          ),
          c.check(
            'heater-end',
            'Heater run to its end, cooled',
            2,
            commonPractice('its light goes out, then to the cooling tray'),
            'heater_cut_short',
          ),
        ],
        [care('The sleeve is hot: let it cool.')],
      ),
      step(
        'dress',
        'Dressed and noted',
        'splice',
        'bench',
        'In the tray with safe bends; fiber, loss and maker noted.',
        [
          c.readings(
            'both-ways',
            'Splice loss read from both ends, mean of the two',
            3,
            'dB',
            {
              upper: {
                value: '0.15',
                source: commonPracticeFromMemory('mean of both directions, 0.10 to 0.15 dB'),
              },
              target: '0.05',
            },
            commonPracticeFromMemory(
              'only the mean is the loss: a step of the mode field shows as a loss one way and a gain the other',
            ),
            { directions: DIRECTIONS, combine: 'mean_of_directions', optional: true },
          ),
          c.check('dressed', 'In the tray, bends safe', 3, commonPractice('safe bends'), 'bend_tight'),
          c.check(
            'record',
            'Fiber, loss and maker noted',
            2,
            commonPractice('note the fiber, the loss and who made it'),
            'record_incomplete',
          ),
        ],
      ),
      clearUp(c),
    ],
  });
}

export const SINGLE_FUSION: MethodSheet = singleFusion();
