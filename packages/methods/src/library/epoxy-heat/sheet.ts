import type { MethodSheet } from '@clear-mark/core';
import { atLeast, between, care, criteriaOf, step } from '../../build.ts';
import { HEAT } from '../../common/cautions.ts';
import {
  bareGlass,
  benchReady,
  clearUp,
  inspecting,
  kit,
  partsOn,
  singleCordLoss,
} from '../../common/steps.ts';
import { commonPractice, house } from '../../sources.ts';
import { method } from '../method.ts';
import { scribing, fullPolish, crimping, STRIP, CAUTIONS } from '../adhesive-parts.ts';

function epoxy(): MethodSheet {
  const c = criteriaOf('epoxy-heat');
  return method({
    name: 'epoxy-heat',
    title: 'Heat-cured epoxy, crimped, cured and polished',
    summary: 'A connector pre-loaded with epoxy on a 3 mm cord: production bench, oven, full polish.',
    pieceKind: 'connector',
    strip: STRIP,
    things: ['bench', 'batch', 'film', 'scope', 'instrument', 'cord'],
    cautions: [...CAUTIONS.slice(0, 2), HEAT, ...CAUTIONS.slice(2)],
    steps: [
      benchReady(c),
      kit(c, 'Connector pre-loaded with degassed epoxy, bead on the tip, dates good, sleeve by the gauge.'),
      partsOn(
        c,
        'Boot, then crimp sleeve, narrow end first',
        'Boot, then crimp sleeve, slid near the end but out of the way.',
      ),
      ...bareGlass(c, { mm: '20', tolerance: '1', words: 'a mark at 20 mm for the buffer' }),
      step(
        'feed',
        'Fiber fed through',
        'terminate',
        'connector',
        'Feel for the bore; see the fiber come out of the front. Do not bump the bead.',
        [
          c.check(
            'through',
            'Fiber seen at the front, bead not bumped',
            5,
            commonPractice('excess epoxy or fiber beyond the tip can touch the oven block'),
            'bead_bumped forced_in fiber_broke_inside',
            { critical: true },
          ),
        ],
      ),
      crimping(
        c,
        'Yarn round the post, sleeve up, crimp with the die asked for; some need a second crimp on the small end.',
      ),
      step(
        'cure',
        'Cured',
        'terminate',
        'connector',
        'Single-fiber connectors hang, multi-fiber ones lie flat; fiber straight out of the cavity, ferrule in contact with the heated block.',
        [
          c.check(
            'contact',
            'Ferrule in contact with the block, fiber straight',
            4,
            commonPractice('no contact, no full cure'),
            'no_contact fiber_bent_in_oven',
          ),
          c.timed(
            'cure-time',
            'Cure',
            5,
            between('900', '3600', commonPractice('15 to 60 minutes by the epoxy’s schedule')),
            commonPractice('by the epoxy’s schedule'),
            { critical: true },
          ),
          c.timed(
            'cool-down',
            'Cool-down before it is touched',
            2,
            atLeast('180', house('some minutes')),
            house('three minutes at least'),
            { optional: true },
          ),
        ],
        [care('Oven and connector are hot; let parts cool.')],
      ),
      scribing(c),
      ...fullPolish(c),
      inspecting(c),
      ...singleCordLoss(c),
      clearUp(c),
    ],
  });
}

export const EPOXY_HEAT: MethodSheet = epoxy();
