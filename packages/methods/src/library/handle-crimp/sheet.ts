import type { MethodSheet } from '@clear-mark/core';
import { criteriaOf, step } from '../../build.ts';
import { around, bareGlass, benchReady, cleaving, kit, partsOn } from '../../common/steps.ts';
import { commonPractice } from '../../sources.ts';
import { method } from '../method.ts';
import { THINGS, CAUTIONS, afterLock, jacket, bow, bootLast } from '../prepolished-parts.ts';

function handleCrimped(): MethodSheet {
  const c = criteriaOf('handle-crimp');
  return method({
    name: 'handle-crimp',
    title: 'Pre-polished ST-style on jacketed cord, handle-operated crimp tool',
    summary:
      'Pushed home and locked by the full stroke of the handle. The front cap is the tool’s own and is used once.',
    pieceKind: 'connector',
    strip: { jacketMm: 40, bufferMm: 29, cleaveMm: 7 },
    things: THINGS,
    cautions: CAUTIONS,
    steps: [
      benchReady(c),
      kit(c, 'Rear grommet off, front cap stays on. Missing front cap: do not use it.'),
      partsOn(c, 'Boot and crimp sleeve on, narrow end first', 'Boot, then crimp sleeve, out of the way.'),
      jacket(c, '40', '40 mm for a crimped ST-style on jacketed cord'),
      step(
        'marks',
        'Two marks on the buffer',
        'strip',
        'buffer',
        'One at the jacket’s edge (shows slip), one 11 mm out.',
        [
          c.measure(
            'second-mark',
            'Second mark from the jacket',
            2,
            'mm',
            around('11', '0.5'),
            commonPractice('11 mm out'),
          ),
        ],
      ),
      ...bareGlass(c, null),
      ...cleaving(c, {
        lowerMm: '6.5',
        upperMm: '7.5',
        targetMm: '7',
        lengthWords: '7 mm from the buffer',
        angleDeg: '1.0',
        inspected: true,
      }),
      bow(c, 'Into the lead-in until it stops; reference line just outside the lead-in.'),
      step(
        'crimp',
        'Full stroke while pushing',
        'terminate',
        'connector',
        'Handle all the way while pushing; connector lifted straight out. Front cap once only: it deforms and loss rises.',
        [
          c.check(
            'full-stroke',
            'Full stroke of the handle, fiber kept pushed',
            5,
            commonPractice('full stroke of the handle while pushing'),
            'half_stroke bow_let_go',
            { critical: true },
          ),
          c.check(
            'line',
            'Reference line just outside the lead-in',
            3,
            commonPractice('reference line on the buffer just outside the lead-in'),
            'line_off',
          ),
          c.check(
            'cap-once',
            'Front cap on and new',
            4,
            commonPractice('used once: it deforms and loss rises'),
            'cap_reused cap_off',
          ),
          c.check(
            'straight-out',
            'Lifted straight out',
            2,
            commonPractice('connector lifted straight out'),
            'lifted_askew',
          ),
        ],
      ),
      bootLast(c),
      ...afterLock(c),
    ],
  });
}

export const HANDLE_CRIMP: MethodSheet = handleCrimped();
