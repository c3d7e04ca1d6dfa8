import type { MethodSheet } from '@clear-mark/core';
import { atMost, care, criteriaOf, step, stop } from '../../build.ts';
import { ARC, BLADES, CHEMICALS, DEFER, GLASS, HEAT, LIGHT } from '../../common/cautions.ts';
import { benchReady, CLEAVE_FACES, clearUp, partsOn } from '../../common/steps.ts';
import { commonPractice, house, standardFromMemory } from '../../sources.ts';
import { method } from '../method.ts';
import { JOINTS } from '../splicing-parts.ts';

function ribbonSplice(): MethodSheet {
  const c = criteriaOf('ribbon-splice');
  return method({
    name: 'ribbon-splice',
    title: 'Ribbon splice, 12 fibers',
    summary:
      'Twelve fibers in colour order, thermally stripped, cleaved and fused together. The worst fiber counts.',
    pieceKind: 'splice',
    things: ['bench', 'splicer', 'cleaver'],
    cautions: [GLASS, LIGHT, ARC, HEAT, CHEMICALS, BLADES, DEFER],
    steps: [
      benchReady(c),
      partsOn(c, 'Ribbon sleeve on one side', 'Heat-shrink sleeve for ribbon on one side first.'),
      step(
        'order',
        'Colour order',
        'strip',
        'buffer',
        'Blue, orange, green, brown, slate, white, red, black, yellow, violet, rose, aqua.',
        [
          c.check(
            'order',
            'Both ribbons in colour order, same way up',
            5,
            standardFromMemory('TIA-598 colours'),
            'colours_swapped ribbon_flipped',
            { critical: true },
          ),
        ],
      ),
      step(
        'strip',
        'Thermal strip',
        'strip',
        'buffer',
        'Hold until the light is ready, one pull, residue wiped off.',
        [
          c.check(
            'light-ready',
            'Waited for the light, one pull',
            3,
            commonPractice('thermal strip until the light is ready'),
            'strip_early',
          ),
          c.check(
            'residue',
            'No residue on any fiber',
            4,
            commonPractice('coating residue keeps a fiber off its groove'),
            'coating_left',
            { critical: true },
          ),
        ],
        [care('The stripper is hot.')],
      ),
      step('cleave', 'All cleaved at once', 'cleave', 'glass', 'Holder seated, one stroke.', [
        c.check(
          'seated',
          'Holder seated, one stroke',
          3,
          commonPractice('by ribbon holder and cleaver'),
          'spacer_gap two_strokes',
        ),
        c.measure(
          'worst-angle',
          'Worst cleave angle of the twelve',
          6,
          'deg',
          { upper: { value: '1.0', source: commonPractice('1 degree or less each side') }, target: '0' },
          commonPractice('1 degree or less each side'),
          { critical: true, uncertainty: { value: '0.1', source: house('the splicer’s reading') } },
        ),
        c.grade(
          'worst-face',
          'Worst face',
          4,
          CLEAVE_FACES.map((l) => ({ ...l, points: Math.min(4, l.points) })),
          commonPractice('mirror: no hackle, lip, chip, spiral or crack'),
        ),
      ]),
      step(
        'fire',
        'Fused',
        'splice',
        'glass',
        'Cover down, gap picture of all twelve looked at, fired.',
        [
          c.grade('joint', 'Worst joint', 6, JOINTS, commonPractice('no bubble, no line, no neck or bulge'), {
            critical: true,
          }),
          c.readings(
            'estimates',
            'Estimate of each fiber',
            6,
            'dB',
            atMost('0.10', house('0.10 dB and the trainee redoes it'), '0'),
            house('the worst fiber counts'),
            { critical: true, fibers: 12 },
          ),
        ],
        [stop('No opening during the arc.')],
      ),
      step(
        'protect',
        'Proof-tested and protected',
        'splice',
        'glass',
        'Proof test, sleeve centred, heater program for ribbon sleeves.',
        [
          c.check(
            'proof',
            'Proof test held',
            3,
            commonPractice('wait for it before opening the holders'),
            'proof_skipped broke_in_proof',
          ),
          c.check(
            'centred',
            'Joint in the middle of the sleeve',
            3,
            house('joint centred'),
            'sleeve_off sleeve_bubble',
          ),
        ],
      ),
      clearUp(c),
    ],
  });
}

export const RIBBON_SPLICE: MethodSheet = ribbonSplice();
