import type { MethodSheet } from '@clear-mark/core';
import { between, criteriaOf, step, stop } from '../../build.ts';
import { DEFER, LIGHT } from '../../common/cautions.ts';
import { commonPractice } from '../../sources.ts';
import { method } from '../method.ts';

function duplex(): MethodSheet {
  const c = criteriaOf('duplex-assembly');
  return method({
    name: 'duplex-assembly',
    title: 'Duplex assembly and polarity',
    summary: 'Two finished connectors into their housings and a clip: the A and B marks are the polarity.',
    pieceKind: 'cord',
    things: ['bench'],
    cautions: [LIGHT, DEFER],
    steps: [
      step(
        'housing',
        'Housings on',
        'terminate',
        'connector',
        'Chamfered corners to the key, pushed by the boot until it snaps. Date code to the shroud’s key where there is one.',
        [
          c.check(
            'chamfer',
            'Chamfered corners to the key, snapped',
            4,
            commonPractice('chamfered corners to the key'),
            'housing_turned not_snapped',
          ),
          c.check(
            'not-pulled',
            'Pushed by the boot, fiber not pulled',
            3,
            commonPractice('push holding the boot, snap'),
            'fiber_pulled',
            { sampled: true },
          ),
        ],
      ),
      step(
        'clip',
        'Into the clip',
        'terminate',
        'connector',
        'A and B are the polarity; parted by squeezing the front or by a screwdriver.',
        [
          c.check(
            'marks',
            'A and B as the cord’s polarity asks',
            5,
            commonPractice('the marks are the polarity'),
            'polarity_crossed',
            { critical: true },
          ),
        ],
      ),
      step(
        'walk',
        'Polarity walked',
        'test',
        'instruments',
        'Red light in at A, out at B of the far end, and back.',
        [
          c.check(
            'walk',
            'Light came out where it should, both ways',
            4,
            commonPractice('test before and after installation'),
            'not_walked',
            { critical: true },
          ),
          c.count(
            'ports-walked',
            'Fibers walked',
            1,
            'fibers',
            between('2', '2', commonPractice('both fibers')),
            commonPractice('both fibers'),
          ),
        ],
        [stop('The fault locator is a laser: look from the side.')],
      ),
    ],
  });
}

export const DUPLEX_ASSEMBLY: MethodSheet = duplex();
