import type { MethodSheet } from '@clear-mark/core';
import { atMost, care, criteriaOf, step, stop } from '../../build.ts';
import { ARC, BLADES, CHEMICALS, DEFER, GLASS, HEAT, LIGHT } from '../../common/cautions.ts';
import { benchReady, clearUp, partsOn } from '../../common/prepare-steps.ts';
import { commonPractice, commonPracticeFromMemory, house, standardFromMemory } from '../../sources.ts';
import { method } from '../method.ts';
import { gapFaces, JOINTS } from '../splicing-parts.ts';

function ribbonSplice(): MethodSheet {
  const c = criteriaOf('ribbon-splice');
  return method({
    name: 'ribbon-splice',
    title: 'Ribbon splice, 12 fibers',
    summary:
      'Twelve fibers in colour order, thermally stripped, cleaved and fused together. The worst fiber counts. Borrowed in part from the fused-on connector: the rest is of the house.',
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
        'Pressed until its light is green, one pull, residue wiped off.',
        [
          c.check(
            'light-ready',
            'Waited for the light, one pull',
            3,
            commonPractice('pressed until its light is green'),
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
          { sampled: true },
        ),
        c.measure(
          'worst-angle',
          'Worst cleave angle of the twelve',
          6,
          'deg',
          { upper: { value: '1.0', source: commonPracticeFromMemory('1 degree each side') }, target: '0' },
          commonPracticeFromMemory('nobody says a limit'),
          { critical: true, uncertainty: { value: '0.1', source: house('the splicer’s reading') } },
        ),
        c.grade(
          'worst-face',
          'Worst face',
          4,
          gapFaces(4),
          house('mirror: no hackle, lip, chip, spiral or crack'),
          { sampled: true },
        ),
      ]),
      step(
        'fire',
        'Fused',
        'splice',
        'glass',
        'Cover down, gap picture of all twelve looked at, fired.',
        [
          c.grade('joint', 'Splice image, worst joint', 6, JOINTS, house('no bubble, no neck or bulge'), {
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
            house('awaited before the holders are opened'),
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
