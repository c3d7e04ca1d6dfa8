import type { MethodSheet } from '@clear-mark/core';
import { atLeast, between, care, criteriaOf, step } from '../../build.ts';
import { HEAT, LIVE_FIBER_CAUTIONS } from '../../common/cautions.ts';
import { bareGlass, benchReady, kit, partsOn, recordAndClearUp } from '../../common/prepare-steps.ts';
import { inspecting, singleCordLoss } from '../../common/test-steps.ts';
import { commonPractice, house } from '../../sources.ts';
import { fullPolish, POLISHED_LOOK, scribing } from '../adhesive-parts.ts';
import { method } from '../method.ts';

function epoxy(): MethodSheet {
  const c = criteriaOf('epoxy-heat');
  return method({
    name: 'epoxy-heat',
    title: 'Heat-cured epoxy, crimped, cured and polished',
    summary:
      'A connector pre-loaded with degassed epoxy on a jacketed cord: crimped before the cure. Strip lengths by the connector’s card; scribe and polish are borrowed from the primer kind.',
    pieceKind: 'connector',
    things: ['bench', 'batch', 'film', 'scope', 'instrument', 'cord'],
    cautions: [...LIVE_FIBER_CAUTIONS.slice(0, 2), HEAT, ...LIVE_FIBER_CAUTIONS.slice(2)],
    steps: [
      benchReady(c),
      kit(
        c,
        'Connector pre-loaded, bead on the tip. Ferrules in the holder or insert, bead untouched.',
        'Pre-loaded connector, bead whole, dates good',
      ),
      partsOn(
        c,
        'Boot, then sleeve, narrow end first',
        'Boot and crimp sleeve on, the sleeve up near the end.',
      ),
      ...bareGlass(c, { how: 'By the connector’s card.', wipe: 'Lint-free wipe with alcohol.' }),
      step(
        'feed',
        'Fiber fed through',
        'terminate',
        'connector',
        'Fed from behind, felt in, seen in front through the window. The bead is not bumped.',
        [
          c.check(
            'through',
            'Fiber seen at the front',
            5,
            commonPractice('felt in, seen in front through the window'),
            'forced_in fiber_broke_inside',
            { critical: true },
          ),
          c.check(
            'bead',
            'Bead not bumped',
            3,
            commonPractice('too much, or a bumped bead: epoxy pulled out, or on the oven'),
            'bead_bumped epoxy_pulled_out',
            { sampled: true },
          ),
        ],
      ),
      step(
        'crimp',
        'Crimped before the cure',
        'terminate',
        'yarn',
        'Yarn round the whole post, sleeve up; crimped with the die named, hand or air tool. Some kinds also with the die’s lower part.',
        [
          c.check(
            'die',
            'Right die, sleeve up, before the oven',
            4,
            commonPractice('with the die named, before the cure'),
            'wrong_die sleeve_not_butted pulled_off',
          ),
          c.check(
            'yarn-spread',
            'Yarn round the whole post',
            4,
            commonPractice('round the whole post'),
            'yarn_uneven yarn_missed',
            { sampled: true },
          ),
        ],
        [],
        'two-crimps',
      ),
      step(
        'cure',
        'Cured',
        'terminate',
        'connector',
        'Single-fiber connectors upright, array kinds flat; fiber straight, ferrule touching heated metal; 15 to 60 minutes by the epoxy. Then some minutes of rest.',
        [
          c.check(
            'contact',
            'Ferrule touches heated metal, fiber straight',
            4,
            commonPractice('no contact, no full cure'),
            'no_contact fiber_bent_in_oven epoxy_soft',
            { critical: true },
          ),
          c.timed(
            'cure-time',
            'Cure',
            5,
            between('900', '3600', commonPractice('15 to 60 minutes by the epoxy')),
            commonPractice('by the epoxy’s schedule'),
            { critical: true },
          ),
          c.timed(
            'cool-down',
            'Rest before it is touched',
            2,
            atLeast('180', house('three minutes')),
            commonPractice('some minutes of rest'),
            { trainee: true },
          ),
        ],
        [care('Oven and connector are hot; let parts cool.')],
      ),
      scribing(c),
      ...fullPolish(c, true),
      inspecting(c, POLISHED_LOOK, 'terminate', true),
      ...singleCordLoss(c),
      recordAndClearUp(c),
    ],
  });
}

export const EPOXY_HEAT: MethodSheet = epoxy();
