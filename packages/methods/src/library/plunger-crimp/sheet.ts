import type { MethodSheet } from '@clear-mark/core';
import { criteriaOf, step } from '../../build.ts';
import { around, bareGlass, benchReady, cleaving, kit, partsOn } from '../../common/steps.ts';
import { commonPractice } from '../../sources.ts';
import { method } from '../method.ts';
import { THINGS, CAUTIONS, afterLock, bow, bootLast } from '../prepolished-parts.ts';

function plunger(): MethodSheet {
  const c = criteriaOf('plunger-crimp');
  return method({
    name: 'plunger-crimp',
    title: 'Pre-polished connector, plunger tool, two crimps',
    summary:
      'Locked by a quarter turn and the plunger, then the stem and the sleeve are crimped with their dies.',
    pieceKind: 'connector',
    things: THINGS,
    cautions: CAUTIONS,
    steps: [
      benchReady(c),
      kit(c, 'Both caps on until the rear one comes off at insertion.'),
      partsOn(
        c,
        'Boot, then sleeve, grooved end first',
        'Boot, then sleeve, grooved end first where it has one, parked about 30 mm back to hold the yarn.',
      ),
      step(
        'park',
        'Sleeve parked, cord clamped',
        'strip',
        'yarn',
        'Sleeve about 30 mm back; cable clamp about 250 or 300 mm from the end; cord clamped with a slight bow.',
        [
          c.measure(
            'parked',
            'Sleeve back from the end of the jacket',
            2,
            'mm',
            around('30', '5'),
            commonPractice('about 30 mm back'),
          ),
          c.check(
            'clamped',
            'Cord clamped with a slight bow',
            2,
            commonPractice('cord clamped with a slight bow'),
            'cord_taut',
          ),
        ],
      ),
      ...bareGlass(c, null),
      ...cleaving(c, {
        lowerMm: '7.5',
        upperMm: '8.5',
        targetMm: '8',
        lengthWords: 'by the cleaver’s mark for this connector',
        angleDeg: '1.0',
        inspected: true,
      }),
      bow(c, 'Rear cap off, quarter turn to lock the connector, fiber in to the stub.'),
      step(
        'plunge',
        'Plunger with its release wire',
        'terminate',
        'connector',
        'Plunger with its release wire, quarter turn out. Gap between jacket and stem under 2 mm.',
        [
          c.check(
            'plunged',
            'Plunger fully, quarter turn out',
            5,
            commonPractice('quarter turn to lock, plunger with its release wire, quarter turn out'),
            'half_stroke turned_early',
            { critical: true },
          ),
          c.measure(
            'stem-gap',
            'Gap between jacket and stem',
            4,
            'mm',
            { upper: { value: '2', exclusive: true, source: commonPractice('under 2 mm') }, target: '0' },
            commonPractice('gap between jacket and stem under 2 mm'),
          ),
        ],
      ),
      step(
        'crimps',
        'Two crimps',
        'terminate',
        'yarn',
        'Stem with the first die, back in and an eighth turn back; yarn cut at the body and spread; sleeve butted to the ring and crimped with the middle die.',
        [
          c.check(
            'first-die',
            'Stem crimped with the first die',
            4,
            commonPractice('crimp the stem with the first die'),
            'wrong_die',
          ),
          c.check(
            'eighth-turn',
            'Back in and an eighth turn back',
            2,
            commonPractice('back in and an eighth turn back'),
            'turn_missing',
          ),
          c.check(
            'sleeve-butted',
            'Yarn spread, sleeve butted, middle die',
            4,
            commonPractice('sleeve butted to the ring'),
            'sleeve_not_butted yarn_uneven wrong_die',
          ),
        ],
        [],
        'two-crimps',
      ),
      bootLast(c),
      ...afterLock(c),
    ],
  });
}

export const PLUNGER_CRIMP: MethodSheet = plunger();
